import { describe, expect, it } from 'vitest'
import { about, remember, secondsLeft, type Left } from './reading'

const at = (seconds: number, left: number): Left => ({ at: seconds * 1_000, left })

describe('a first read', () => {
  it('tells how long it takes once two moments are known', () => {
    expect(secondsLeft([])).toBeNull()
    expect(secondsLeft([at(0, 1_000)])).toBeNull()
    expect(secondsLeft([at(0, 1_000), at(2, 800)])).toBe(8)
    expect(secondsLeft([at(0, 1_000), at(2, 1_000)])).toBeNull()
    expect(secondsLeft([at(0, 10), at(2, 0)])).toBe(0)
  })

  it('goes by the last half minute, and begins anew where there is more than before', () => {
    let samples: Left[] = []
    for (const s of [at(0, 9_000), at(20, 8_000), at(40, 5_000)]) samples = remember(samples, s)
    expect(samples).toEqual([at(20, 8_000), at(40, 5_000)])
    expect(remember(samples, at(41, 20_000))).toEqual([at(41, 20_000)])
  })

  it.each([
    [0, 'a few seconds left'],
    [38, 'about 40 s left'],
    [89, 'about 90 s left'],
    [100, 'about 2 min left'],
  ])('of %i seconds is said as people do', (seconds, words) => expect(about(seconds)).toBe(words))
})

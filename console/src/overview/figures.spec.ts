import { describe, expect, it } from 'vitest'
import { compared, halves, sum } from './figures'

const day = (logged: number) => ({ day: '2026-05-04', logged, waiting: 1, leftOut: 2, unreadable: 0 })

describe('figures', () => {
  it('compares the last days with as many before them', () => {
    const { before, last } = halves([day(1), day(2), day(3), day(4)])
    expect(sum(before, 'logged')).toBe(3)
    expect(sum(last, 'logged')).toBe(7)
    expect(sum(last, 'leftOut')).toBe(4)
  })
  it('says how they compare', () => {
    expect(compared(1_500, 300, '30 days')).toBe('1,200 more than in the 30 days before')
    expect(compared(1, 3, '30 days')).toBe('2 fewer than in the 30 days before')
    expect(compared(3, 3, '30 days')).toBe('as many as in the 30 days before')
  })
})

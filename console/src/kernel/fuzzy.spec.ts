import { describe, expect, it } from 'vitest'
import { fits } from './fuzzy'

describe('what was typed', () => {
  it('fits where its letters stand in order', () => {
    expect(fits('plc', 'Policies')).toBeGreaterThan(0)
    expect(fits('clp', 'Policies')).toBe(0)
    expect(fits('x', '')).toBe(0)
  })
  it('fits better as a whole, at the beginning of words', () => {
    expect(fits('port', 'Port of Skarvik')).toBeGreaterThan(fits('port', 'Airport of Skarvik'))
    expect(fits('port', 'Airport')).toBeGreaterThan(fits('port', 'people over there'))
    expect(fits('ps', 'Port of Skarvik')).toBeGreaterThan(fits('ps', 'hopes'))
  })
  it('is nothing in particular while nothing is typed', () => {
    expect(fits(' ', 'Policies')).toBe(1)
  })
})

import { describe, expect, it } from 'vitest'
import { compared, heightOf, plotOf, shown, titleOf, valuesOf } from './figures'

const SHARE = { name: 'shown up', unit: 'share' }
const DAYS = { name: 'days, median', unit: 'days' }
const COUNT = { name: 'held', unit: 'count' }

describe('figures', () => {
  it('are read by their unit, and a missing one is nothing', () => {
    expect(shown(0.876, SHARE)).toBe('88 %')
    expect(shown(41.25, DAYS)).toBe('41.3')
    expect(shown(1200, COUNT)).toBe('1,200')
    expect(shown(null, COUNT)).toBe('')
  })
  it('are compared as they are read', () => {
    expect(compared(0.876, 0.879, SHARE)).toBe('as before')
    expect(compared(30, 41.5, DAYS)).toBe('41.5 before')
    expect(compared(30, null, DAYS)).toBe('')
  })
  it('have a title and a plot by their measure', () => {
    expect(titleOf('after-two-meetings')).toBe('After two meetings')
    const measure = { name: 'first-meetings' } as never
    expect(plotOf({ measure, by: 'month' })?.flat).toBe(false)
    expect(plotOf({ measure, by: 'owner' })?.flat).toBe(true)
    expect(plotOf({ measure: { name: 'to-win' } as never, by: 'month' })).toBeNull()
    // a line each where they lie, and always the same where they stand
    const lines = Array(10).fill(null) as never[]
    expect(heightOf({ measure, by: 'owner', lines })).toBe(350)
    expect(heightOf({ measure, by: 'month', lines })).toBe(260)
  })
  it('are found by their column', () => {
    const line = (values: (number | null)[]) => ({
      key: '',
      label: '',
      basis: 1,
      cells: values.map((value) => ({ rows: 0, ...(value !== null && { value }) })),
    })
    const sheet = { columns: [COUNT, DAYS], lines: [line([1, 2]), line([3, null])] }
    expect(valuesOf(sheet, 'days, median')).toEqual([2, null])
  })
})

import { expect, it } from 'vitest'
import { today } from './decisionQueries'

it('writes the reader’s day as a date field does', () => {
  expect(today(new Date(2026, 0, 5, 23, 59))).toBe('2026-01-05')
})

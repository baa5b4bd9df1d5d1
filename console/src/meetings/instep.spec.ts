import { describe, expect, it } from 'vitest'
import { broughtBy } from './instep'

describe('what a sync run brought', () => {
  it('leaves out what did not happen', () => {
    expect(broughtBy({ read: 3, gone: 0, sent: 10, received: 0, merged: 1, refused: 0 })).toBe(
      'read 3, sent 10, merged 1',
    )
    expect(broughtBy({ read: 0, gone: 0, sent: 0, received: 0, merged: 0, refused: 0 })).toBe('')
    expect(broughtBy(null)).toBe('')
  })
})

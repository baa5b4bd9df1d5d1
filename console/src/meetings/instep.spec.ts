import { describe, expect, it } from 'vitest'
import { newsOf } from './instep'

describe('what a look did', () => {
  it('names what it did alone', () => {
    expect(newsOf('read 3, gone 0, sent 10, received 0, merged 1, refused 0')).toBe(
      'read 3, sent 10, merged 1',
    )
  })
  it('is empty where nothing happened, and where nothing is known', () => {
    expect(newsOf('read 0, gone 0')).toBe('')
    expect(newsOf('')).toBe('')
  })
})

import { describe, expect, it, vi } from 'vitest'
import type { Notice } from './queries'
import { newlyRinging, notify, waitFor } from './ringing'

const at = '2026-05-04T10:00:00Z'
function notice(key: string, rings: boolean): Notice {
  return { key, kind: 'reminder', title: key, detail: '', at, allDay: false, path: '/', read: false, rings }
}

describe('what rings', () => {
  it('rings once, and once more after it was put off', () => {
    const rang = new Set<string>()
    const keys = (...notices: Notice[]) => newlyRinging(notices, rang).map((n) => n.key)
    expect(keys(notice('a', true), notice('b', false))).toEqual(['a'])
    expect(keys(notice('a', true), notice('b', true))).toEqual(['b'])
    expect(keys(notice('a', false), notice('b', true))).toEqual([])
    expect(keys(notice('a', true))).toEqual(['a'])
  })

  it('is waited for, but neither for ever nor without a pause', () => {
    const now = Date.parse(at)
    expect(waitFor('2026-05-04T10:00:30Z', now)).toBe(30_500)
    expect(waitFor('2026-05-04T09:00:00Z', now)).toBe(3_000)
    expect(waitFor('2026-05-24T10:00:00Z', now)).toBe(60_000)
    expect(waitFor(undefined, now)).toBe(60_000)
  })

  it('is told of by the browser only where somebody allowed it', () => {
    const shown: string[] = []
    class Fake {
      static permission = 'denied'
      onclick: (() => void) | null = null
      constructor(title: string, options: { tag: string }) {
        shown.push(`${title} ${options.tag}`)
      }
    }
    vi.stubGlobal('Notification', Fake)
    notify(notice('a', true), '10:00', () => undefined)
    expect(shown).toEqual([])
    Fake.permission = 'granted'
    notify(notice('a', true), '10:00', () => undefined)
    expect(shown).toEqual(['a a'])
    vi.unstubAllGlobals()
    notify(notice('a', true), '10:00', () => undefined)
  })
})

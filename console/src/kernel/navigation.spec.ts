import { describe, expect, it } from 'vitest'
import { groups, groupsFor } from './navigation'

const pages = groups.flatMap((g) => g.pages)

describe('the pages', () => {
  it('each have a path and keys of their own', () => {
    expect(new Set(pages.map((p) => p.path)).size).toBe(pages.length)
    expect(new Set(pages.map((p) => p.keys)).size).toBe(pages.length)
    // every one can be typed on any keyboard
    expect(pages.every((p) => /^g [a-z]$/.test(p.keys))).toBe(true)
  })
  it('are those of a role, and no group is empty', () => {
    const names = (role: string) => groupsFor(role).flatMap((g) => g.pages.map((p) => p.name))
    expect(names('administrator')).toHaveLength(pages.length)
    expect(names('rep')).not.toContain('Policies')
    expect(names('rep')).not.toContain('Journal')
    expect(names('auditor')).toContain('Journal')
    expect(names('rep')).toContain('Directory')
    expect(groupsFor('rep').every((g) => g.pages.length > 0)).toBe(true)
  })
})

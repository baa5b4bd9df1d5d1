import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { editable, onTop, words } from './rules'

describe('a policy that is edited', () => {
  it('is a copy, in which what an older one does not say stands as it is meant', () => {
    const rules = { name: 'Everyone', matched: ['contact'] } as Schemas['PolicyRules']
    const copy = editable(rules)
    expect(copy.keeping.deletedHere).toBe('remove')
    expect(copy.creation).toEqual({ makes: 'nothing', conditions: [] })
    expect(copy.folders.include).toEqual(['inbox', 'sent', 'archive'])
    copy.matched.push('lead')
    expect(rules.matched).toEqual(['contact'])
  })

  it('is as it was where nothing was edited', () => {
    const rules = {
      name: 'x',
      folders: { include: ['sales'], exclude: [] },
    } as unknown as Schemas['PolicyRules']
    expect(JSON.stringify(editable(editable(rules)))).toBe(JSON.stringify(editable(rules)))
    expect(editable(rules).folders.include).toEqual(['sales'])
  })

  it('keeps what was changed here on top of what others changed meanwhile', () => {
    const base = { name: 'x', keeping: { wins: 'later', asks: false }, matched: ['contact'] }
    const mine = { name: 'mine', keeping: { wins: 'here', asks: false }, matched: ['contact'] }
    const theirs = { name: 'theirs', keeping: { wins: 'later', asks: true }, matched: ['contact', 'lead'] }
    expect(onTop(base, mine, theirs)).toEqual({
      name: 'mine',
      keeping: { wins: 'here', asks: true },
      matched: ['contact', 'lead'],
    })
    expect(onTop(base, base, theirs)).toEqual(theirs)
    expect(onTop(base, mine, base)).toEqual(mine)
  })

  it('takes what stands between commas', () => {
    expect(words(' inbox, ,sent ,')).toEqual(['inbox', 'sent'])
  })
})

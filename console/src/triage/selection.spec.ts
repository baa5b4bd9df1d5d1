import { describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useSelection } from './selection'

function stranger(address: string): Schemas['StrangerInfo'] {
  const none = { in: 0, out: 0, beside: 0, meetings: 0, items: 1, waiting: 1, people: 1 }
  const at = '2026-05-04T12:00:00Z'
  return { address, name: '', ...none, first: at, last: at, twoWay: false, bulk: 0, likely: [] }
}
function domain(name: string, freeMail: boolean, ...who: string[]): Schemas['DomainInfo'] {
  return { domain: name, freeMail, items: 1, waiting: 1, strangers: who.map((w) => stranger(`${w}@${name}`)) }
}
const quay = domain('quay.example', false, 'ida', 'ole')
const post = domain('post.example', true, 'rosa')

describe('whom a choice is for', () => {
  it('is the one the keys stand on while nobody is ticked, and no domain', () => {
    const s = useSelection(ref([quay, post]))
    s.current.value = 1
    expect(s.meant.value.map((m) => m.address)).toEqual(['ole@quay.example'])
    expect(s.whole.value).toEqual([])
  })
  it('is a domain once all of it are ticked, but never one where anybody can have an address', () => {
    const s = useSelection(ref([quay, post]))
    s.tick('ida@quay.example')
    expect(s.whole.value).toEqual([])
    s.tickDomain(quay)
    s.tickDomain(post)
    expect(s.whole.value).toEqual(['quay.example'])
    expect(s.meant.value).toHaveLength(3)
    s.tickDomain(quay)
    expect(s.meant.value.map((m) => m.address)).toEqual(['rosa@post.example'])
  })
  it('forgets who has gone, and stays within the list', async () => {
    const all = ref([quay, post])
    const s = useSelection(all)
    s.current.value = 2
    s.tick('rosa@post.example')
    all.value = [quay]
    await nextTick()
    expect(s.ticked.value).toEqual([])
    expect(s.current.value).toBe(1)
  })
})

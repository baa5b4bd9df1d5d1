import { mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import ConnectionTable from './ConnectionTable.vue'

const isAdministrator = ref(true)
const me = ref<{ person?: string }>({})
vi.mock('../kernel/useMe', () => ({ useMe: () => ({ me, isAdministrator }) }))

function source(id: number, label: string, chosen: boolean): Schemas['SourceInfo'] {
  const counts = { left: 0, seen: 1_000, logged: 10, waiting: 0, leftOut: 0, unreadable: 0 }
  const calendar = { colour: '', outgoing: false, held: '' }
  return { id, kind: 'folder', label, chosen, counts: false, ...counts, ...calendar }
}

function connection(more: Partial<Schemas['ConnectionInfo']>): Schemas['ConnectionInfo'] {
  return {
    id: '1',
    person: 'ann',
    personName: 'Ann',
    team: '',
    server: 'mail',
    kind: 'imap',
    account: 'ann@corvane.example',
    state: 'capturing',
    detail: '',
    signIn: 'password',
    agreedBy: '',
    since: '2026-01-01T00:00:00Z',
    countKeyword: '',
    keepOutKeyword: '',
    live: false,
    sources: [source(1, 'inbox', true), source(2, 'sent', false)],
    ...more,
  }
}

function table(...connections: Schemas['ConnectionInfo'][]) {
  return mount(ConnectionTable, {
    props: { connections },
    global: { stubs: { ConnectionActs: { template: '<button>acts</button>' }, ChooseSources: true } },
  })
}

beforeEach(() => {
  isAdministrator.value = true
  me.value = {}
})

describe('the table of connections', () => {
  it('adds up what its sources showed, and names those that are looked at', () => {
    const text = table(connection({})).text()
    expect(text).toContain('2,000')
    expect(text).toContain('inbox')
    expect(text).not.toContain('sent')
  })

  it('says so when nothing was read, or nothing is chosen', () => {
    expect(table(connection({ sources: [] })).text()).toContain('not read yet')
    expect(table(connection({ sources: [source(1, 'inbox', false)] })).text()).toContain('nothing chosen')
  })

  it('tells what to do in a line of its own, marked as bad where it is', () => {
    const bad = table(connection({ state: 'needs-sign-in', detail: 'sign in again' }))
    expect(bad.findAll('tbody tr')).toHaveLength(2)
    expect(bad.get('.detail-line').classes()).toContain('bad')
    const paused = table(connection({ state: 'paused', detail: 'until it is resumed' }))
    expect(paused.get('.detail-line').classes()).not.toContain('bad')
  })

  it('lets an administrator and whose it is act, and nobody else', () => {
    expect(table(connection({})).findAll('button')).toHaveLength(2)
    isAdministrator.value = false
    expect(table(connection({})).findAll('button')).toHaveLength(0)
    me.value = { person: 'ann' }
    expect(table(connection({})).findAll('button')).toHaveLength(2)
    expect(table(connection({ person: 'ben' })).findAll('button')).toHaveLength(0)
  })
})

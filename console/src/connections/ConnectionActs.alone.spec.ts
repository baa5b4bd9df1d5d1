import { flushPromises, mount } from '@vue/test-utils'
import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import ConnectionActs from './ConnectionActs.vue'

const role = ref('administrator')
vi.mock('../kernel/useMe', () => ({
  useMe: () => ({ isAdministrator: ref(role.value === 'administrator') }),
}))

const asked: string[] = []
let answer: () => Response
beforeEach(() => {
  document.cookie = 'XSRF-TOKEN=t'
  role.value = 'administrator'
  asked.length = 0
  answer = () => Response.json({})
  vi.stubGlobal('fetch', (request: Request) => {
    asked.push(`${request.method} ${new URL(request.url, 'http://here').pathname}`)
    return Promise.resolve(answer())
  })
})

function acts(state: string, signIn: string) {
  const connection: Schemas['ConnectionInfo'] = {
    id: '7',
    person: '8',
    personName: 'Ann',
    team: '',
    server: 'mail',
    kind: 'imap',
    account: 'ann@corvane.example',
    state,
    detail: '',
    signIn,
    agreedBy: '',
    since: '2026-01-01T00:00:00Z',
    countKeyword: '',
    keepOutKeyword: '',
    live: true,
    sources: [],
  }
  return mount(ConnectionActs, {
    props: { connection },
    global: { plugins: [createPinia(), PiniaColada], stubs: { NewPassword: true, RemoveConnection: true } },
  })
}

function words(state: string, signIn: string) {
  return acts(state, signIn)
    .findAll('button')
    .map((b) => b.text())
}

describe('a connection offers what its state makes sense of', () => {
  it.each([
    ['capturing', 'password', ['Sync now', 'Pause', 'End…']],
    ['overdue', 'organisation-key', ['Sync now', 'Pause', 'End…']],
    ['paused', 'oauth', ['Resume', 'End…']],
    ['waiting-for-consent', 'oauth', ['Sign in at the provider', 'End…']],
    ['needs-sign-in', 'oauth', ['Sign in at the provider', 'End…']],
    ['needs-sign-in', 'password', ['New password', 'End…']],
    ['refused', 'password', ['Accept', 'End…']],
    ['disconnected', 'organisation-password', ['Connect again', 'End…']],
    ['disconnected', 'password', ['New password', 'End…']],
  ])('%s by %s', (state, signIn, expected) => {
    expect(words(state, signIn)).toEqual(expected)
  })

  it('a rep accepts no account', () => {
    role.value = 'rep'
    expect(words('refused', 'password')).toEqual(['End…'])
  })
})

describe('an act', () => {
  it('asks the service', async () => {
    const row = acts('paused', 'password')
    await row.get('button').trigger('click')
    await flushPromises()
    expect(asked).toContain('POST /api/connections/7/resume')
  })

  it('that is refused says why, beside the button', async () => {
    answer = () =>
      Response.json(
        { title: 'Only a paused connection can be resumed', detail: 'This one is refused.' },
        { status: 409, headers: { 'content-type': 'application/problem+json' } },
      )
    const row = acts('paused', 'password')
    await row.get('button').trigger('click')
    await flushPromises()
    expect(row.get('[role=alert]').text()).toContain('Only a paused connection')
  })

  it('of consent that cannot begin says why, too', async () => {
    answer = () =>
      Response.json(
        { title: 'The consent cannot be asked for', detail: 'Check the issuer.' },
        { status: 502, headers: { 'content-type': 'application/problem+json' } },
      )
    const row = acts('waiting-for-consent', 'oauth')
    await row.get('button').trigger('click')
    await flushPromises()
    expect(asked).toEqual(['POST /api/connections/7/consent'])
    expect(row.get('[role=alert]').text()).toContain('cannot be asked for')
  })
})

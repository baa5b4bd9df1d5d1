import { PiniaColada, useQuery } from '@pinia/colada'
import { mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, ref } from 'vue'
import { keysOf, listen, useLive, type News } from './live'

class FakeSource {
  static readonly CLOSED = 2
  static all: FakeSource[] = []
  readyState = 1
  onopen: (() => void) | null = null
  onerror: (() => void) | null = null
  closed = false
  private heard = new Map<string, (event: { data: string }) => void>()
  constructor(readonly url: string) {
    FakeSource.all.push(this)
  }
  addEventListener(name: string, to: (event: { data: string }) => void) {
    this.heard.set(name, to)
  }
  say(name: string, data: string) {
    this.heard.get(name)?.({ data })
  }
  close() {
    this.closed = true
  }
}

/** Locks of one browser: the next one asked is served when the one before has ended. */
function fakeLocks() {
  let last: Promise<unknown> = Promise.resolve()
  return { request: (_: string, run: () => Promise<void>) => (last = last.then(run)) }
}
class FakeChannel {
  static all: FakeChannel[] = []
  onmessage: ((event: { data: unknown }) => void) | null = null
  constructor() {
    FakeChannel.all.push(this)
  }
  postMessage(data: unknown) {
    FakeChannel.all.filter((c) => c !== this).forEach((c) => c.onmessage?.({ data }))
  }
  close() {
    FakeChannel.all = FakeChannel.all.filter((c) => c !== this)
  }
}
const turn = () => new Promise((done) => setTimeout(done))

beforeEach(() => {
  FakeSource.all = []
  FakeChannel.all = []
  vi.stubGlobal('EventSource', FakeSource)
  vi.stubGlobal('BroadcastChannel', FakeChannel)
  vi.stubGlobal('navigator', { locks: fakeLocks() })
})

describe('one stream a browser', () => {
  it('is held by one tab, heard by all, and taken over by the next', async () => {
    const first: News[] = []
    const second: News[] = []
    const endFirst = listen((n) => first.push(n))
    const endSecond = listen((n) => second.push(n))
    await turn()
    expect(FakeSource.all).toHaveLength(1)
    expect(FakeSource.all[0]!.url).toMatch(/^\/api\/changes\?ago=2\d\d\d$/)
    FakeSource.all[0]!.say('timelines', 'a b')
    FakeSource.all[0]!.say('things', 'policy')
    expect(first).toEqual([
      { records: ['a', 'b'], kinds: [] },
      { records: [], kinds: ['policy'] },
    ])
    expect(second).toEqual(first)
    endFirst()
    await turn()
    expect(FakeSource.all[0]!.closed).toBe(true)
    expect(FakeSource.all).toHaveLength(2)
    FakeSource.all[1]!.say('timelines', 'c')
    expect(second).toHaveLength(3)
    expect(first).toHaveLength(2)
    endSecond()
  })

  it('tells that anything may have changed once it is back', async () => {
    const heard: News[] = []
    const end = listen((n) => heard.push(n))
    await turn()
    const source = FakeSource.all[0]!
    source.onopen?.()
    expect(heard).toEqual([])
    source.onerror?.()
    source.onopen?.()
    expect(heard[0]?.records).toEqual(['*'])
    end()
  })

  it('is one for each tab where a browser knows no locks', async () => {
    vi.stubGlobal('navigator', {})
    const ends = [listen(() => undefined), listen(() => undefined)]
    await turn()
    expect(FakeSource.all).toHaveLength(2)
    ends.forEach((end) => end())
  })
})

it('lets a slow answer come before it asks for newer news', async () => {
  vi.useFakeTimers()
  try {
    let asked = 0
    let aborted = 0
    const page = defineComponent({
      setup(_, { expose }) {
        const meetings = useQuery({
          key: ['calendar'],
          query: ({ signal }) => {
            const says = ++asked
            signal.addEventListener('abort', () => aborted++)
            return new Promise<number>((answer) => setTimeout(() => answer(says), 1_000))
          },
        })
        useLive(ref(true))
        expose({ meetings })
        return () => null
      },
    })
    const shown = mount(page, { global: { plugins: [createPinia(), PiniaColada] } })
    await vi.advanceTimersByTimeAsync(1_100)
    // somebody is at it all the time
    for (let news = 0; news < 50; news++) {
      FakeSource.all[0]!.say('timelines', 'a')
      await vi.advanceTimersByTimeAsync(100)
    }
    expect(aborted).toBe(0)
    expect(asked).toBeGreaterThan(3)
    await vi.advanceTimersByTimeAsync(3_000)
    expect((shown.vm as unknown as { meetings: { data: { value: number } } }).meetings.data.value).toBe(asked)
    shown.unmount()
  } finally {
    vi.useRealTimers()
  }
})

it('asks again for what shows a thing, and for nothing else', () => {
  expect(keysOf({ records: [], kinds: ['subscription'] })).toEqual(['journal', 'feeds'])
  expect(keysOf({ records: [], kinds: ['server'] })).not.toContain('decisions')
  expect(keysOf({ records: [], kinds: ['exclusion'] })).toEqual(
    expect.arrayContaining(['exclusions', 'decisions']),
  )
  expect(keysOf({ records: ['x'], kinds: [] })).not.toContain('connections')
  expect(keysOf({ records: [], kinds: ['*'] })).toEqual(
    expect.arrayContaining(['policies', 'feeds', 'sign-ins']),
  )
  expect(keysOf({ records: [], kinds: ['unheard-of'] })).toEqual(['journal'])
})

import { onBeforeUnmount, watch, type Ref } from 'vue'
import { useAskAgain, type Filters } from './askAgain'

/** What has changed: ids of records whose timelines have ('*' for many), and kinds of things that the journal tells of. */
export interface News {
  records: string[]
  kinds: string[]
}

/** How long news gather before anything is asked for again; lists that anything may move gather longer. */
const WAIT_MILLIS = 400
const LISTS_MILLIS = 4_000
const AGAIN_MILLIS = 8_000
const NAME = 'jandrel.changes'

/** What shows a kind of things, by the first part of its queries' keys. */
const SHOWN: Record<string, readonly string[]> = {
  policy: ['policies', 'coverage'],
  policies: ['policies', 'coverage'],
  exclusion: ['exclusions'],
  connection: ['connections', 'coverage', 'in-step', 'feeds'],
  server: ['servers', 'connections'],
  person: ['people', 'coverage'],
  directory: ['people', 'coverage', 'records', 'record', 'triage'],
  company: ['company', 'triage'],
  'sign-in': ['session'],
  item: ['triage-deeds', 'triage'],
}
const OF_TIMELINES = ['calendar', 'free', 'meeting', 'in-step']
const LISTS = ['summary', 'decisions', 'triage', 'journal']
/** Every run of every connection tells of it: what shows them is asked for with the lists. */
const SLOW = new Set(['connections', 'coverage', 'in-step', 'feeds'])

/** The keys whose queries show what changed, those of timelines apart. */
export function keysOf(news: News): string[] {
  return [
    ...new Set([
      ...(news.records.length ? OF_TIMELINES : []),
      ...news.kinds.flatMap((kind) => SHOWN[kind] ?? []),
    ]),
  ]
}

/**
 * One stream of events a browser (server-sent events, HTML Living Standard §9.2): the tab that holds a lock listens, and passes on to the
 * others what it hears (Web Locks, Broadcast Channel). Where there are no locks, as on a page that did not come by TLS, each tab listens.
 *
 * @return ends it
 */
export function listen(heard: (news: News) => void): () => void {
  const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(NAME)
  let source: EventSource | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let release: (() => void) | undefined
  let ended = false

  function pass(news: News) {
    heard(news)
    channel?.postMessage(news)
  }
  function open(again: boolean) {
    if (ended || typeof EventSource === 'undefined') return
    let missed = again
    source = new EventSource('/api/changes')
    source.onopen = () => {
      // what happened in between is not told again
      if (missed) pass({ records: ['*'], kinds: Object.keys(SHOWN) })
      missed = false
    }
    source.onerror = () => {
      missed = true
      if (source?.readyState === EventSource.CLOSED) timer = setTimeout(() => open(true), AGAIN_MILLIS)
    }
    source.addEventListener('timelines', (event: MessageEvent<string>) =>
      pass({ records: event.data.split(' '), kinds: [] }),
    )
    source.addEventListener('things', (event: MessageEvent<string>) =>
      pass({ records: [], kinds: event.data.split(' ') }),
    )
  }
  if (channel) channel.onmessage = (event: MessageEvent<News>) => heard(event.data)
  const locks = channel ? (navigator as Partial<Navigator>).locks : undefined
  if (locks) {
    void locks.request(NAME, () => {
      open(false)
      return new Promise<void>((done) => (release = done))
    })
  } else open(false)
  return () => {
    ended = true
    clearTimeout(timer)
    source?.close()
    channel?.close()
    release?.()
  }
}

/** Whatever changes appears on open pages: only what shows it is asked for again, and what somebody types in stays. */
export function useLive(enabled: Ref<boolean>): void {
  const askAgain = useAskAgain()
  const records = new Set<string>()
  const keys = new Set<string>()
  const slow = new Set<string>(LISTS)
  let soon: ReturnType<typeof setTimeout> | undefined
  let later: ReturnType<typeof setTimeout> | undefined

  function ask() {
    soon = undefined
    const all = records.has('*')
    const ids = new Set(records)
    const predicate: Filters['predicate'] = (entry) => all || ids.has(String(entry.key[1]))
    const timelines: Filters[] = ids.size
      ? [
          { key: ['timeline'], predicate },
          { key: ['record'], predicate },
        ]
      : []
    void askAgain(...timelines, ...keys)
    records.clear()
    keys.clear()
  }
  function hear(news: News) {
    news.records.forEach((id) => records.add(id))
    keysOf(news).forEach((key) => (SLOW.has(key) ? slow : keys).add(key))
    // several at once are asked for once
    soon ??= setTimeout(ask, WAIT_MILLIS)
    later ??= setTimeout(() => {
      later = undefined
      void askAgain(...slow)
      SLOW.forEach((key) => slow.delete(key))
    }, LISTS_MILLIS)
  }
  let end: (() => void) | undefined
  watch(
    enabled,
    (on) => {
      end?.()
      end = on ? listen(hear) : undefined
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    end?.()
    clearTimeout(soon)
    clearTimeout(later)
  })
}

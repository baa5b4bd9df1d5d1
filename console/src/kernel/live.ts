import { onBeforeUnmount, watch, type Ref } from 'vue'
import { useAskAgain, type Filters } from './askAgain'

/** What has changed: ids of records whose timelines have, and kinds of things that the journal tells of; '*' for any. */
export interface News {
  records: string[]
  kinds: string[]
}

/** How long news gather before anything is asked for again; what is asked for less often gathers longer. */
const WAIT_MILLIS = 400
const SLOW_MILLIS = 4_000
const AGAIN_MILLIS = 8_000
/** News wait until what was asked for the last ones is answered, and so long at most: overtaken each time, a slow answer would never come. */
const ANSWER_MILLIS = 10_000
/** What a page shows first was asked for before it knows that somebody is signed in. */
const BEFORE_MILLIS = 2_000
const NAME = 'jandrel.changes'

const DECIDED = ['decisions', 'summary', 'triage']
/** What shows a kind of things, by the first part of its queries' keys; the journal tells of them all. */
const SHOWN: Record<string, readonly string[]> = {
  policy: ['policies', 'coverage', 'set-up', ...DECIDED],
  policies: ['policies', 'coverage', 'set-up', ...DECIDED],
  exclusion: ['exclusions', ...DECIDED],
  connection: ['connections', 'coverage', 'in-step', 'address-books', 'notices', ...DECIDED],
  source: ['connections', 'coverage', 'notices', 'address-books', ...DECIDED],
  server: ['servers', 'connections', 'set-up'],
  host: ['servers'],
  person: ['people', 'coverage', 'directory', ...DECIDED],
  directory: ['measures', 'people', 'coverage', 'records', 'record', 'directory', ...DECIDED],
  contact: ['address-books', 'records', 'record', 'directory', 'triage-deeds', ...DECIDED],
  account: ['records', 'record', 'directory', ...DECIDED],
  lead: ['records', 'record', 'directory', ...DECIDED],
  opportunity: ['records', 'record', 'directory', 'measures', ...DECIDED],
  company: ['company', 'set-up', 'stages', 'fields', 'directory', 'directory-kinds', 'measures', ...DECIDED],
  item: DECIDED,
  background: DECIDED,
  triage: ['triage-deeds', 'notices', 'directory', ...DECIDED],
  meeting: ['in-step', 'notices'],
  notice: ['notices'],
  subscription: ['feeds'],
  'sign-in': ['session', 'sign-ins', 'sessions', 'set-up'],
}
const OF_TIMELINES = ['calendar', 'free', 'meeting', 'in-step', ...DECIDED]
/** What every run of every connection moves is asked for less often. */
const SLOW = new Set([
  'address-books',
  'measures',
  'connections',
  'coverage',
  'in-step',
  'journal',
  'notices',
  ...DECIDED,
])

/** The keys whose queries show what changed, those of timelines apart. */
export function keysOf(news: News): string[] {
  const kinds = news.kinds.includes('*') ? Object.keys(SHOWN) : news.kinds
  return [
    ...new Set([
      ...(news.records.length ? OF_TIMELINES : []),
      ...(kinds.length ? ['journal'] : []),
      ...kinds.flatMap((kind) => SHOWN[kind] ?? []),
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
  const began = Date.now()

  function pass(news: News) {
    heard(news)
    channel?.postMessage(news)
  }
  function open(again: boolean) {
    if (ended || typeof EventSource === 'undefined') return
    let missed = again
    // what changed since this page began to ask is told first, however late it listens
    source = new EventSource(`/api/changes?ago=${Math.max(0, Date.now() - began) + BEFORE_MILLIS}`)
    source.onopen = () => {
      // what happened in between is not told again
      if (missed) pass({ records: ['*'], kinds: ['*'] })
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
  const slow = new Set<string>()
  let soon: ReturnType<typeof setTimeout> | undefined
  let later: ReturnType<typeof setTimeout> | undefined
  let answered: Promise<unknown> = Promise.resolve()

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
    const late = new Promise((done) => setTimeout(done, ANSWER_MILLIS))
    answered = Promise.race([askAgain(...timelines, ...keys), late])
    records.clear()
    keys.clear()
  }
  function hear(news: News) {
    news.records.forEach((id) => records.add(id))
    // what was read on another device is read here at once
    const own = news.kinds.includes('notice') ? 'notices' : ''
    keysOf(news).forEach((key) => (SLOW.has(key) && key !== own ? slow : keys).add(key))
    // several at once are asked for once
    soon ??= setTimeout(() => void answered.then(ask), WAIT_MILLIS)
    if (slow.size)
      later ??= setTimeout(() => {
        later = undefined
        void askAgain(...slow)
        slow.clear()
      }, SLOW_MILLIS)
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

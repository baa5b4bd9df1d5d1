import { onBeforeUnmount, onMounted } from 'vue'
import { useAskAgain, type Filters } from './askAgain'

const WAIT = 400

/** What changes on timelines appears on open pages: the service tells which, the page asks for what it shows again. */
export function useChanges(): void {
  const askAgain = useAskAgain()
  let source: EventSource | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  const heard = new Set<string>()

  function ask() {
    const all = heard.has('*')
    const predicate: Filters['predicate'] = (entry) => all || heard.has(String(entry.key[1]))
    void askAgain(
      { key: ['timeline'], predicate },
      { key: ['record'], predicate },
      'calendar',
      'free',
      'meeting',
      'in-step',
    )
    heard.clear()
    timer = undefined
  }
  onMounted(() => {
    if (typeof EventSource === 'undefined') return
    source = new EventSource('/api/changes')
    source.addEventListener('timelines', (event: MessageEvent<string>) => {
      event.data.split(' ').forEach((id) => heard.add(id))
      // several at once are asked for once
      timer ??= setTimeout(ask, WAIT)
    })
  })
  onBeforeUnmount(() => {
    source?.close()
    clearTimeout(timer)
  })
}

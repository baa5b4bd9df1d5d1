import { computed, onScopeDispose, ref } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useRulesChanged } from '../policy/exclusionQueries'

type Change = Schemas['Change']
const ASK_AGAIN_MILLIS = 250

/**
 * One rehearsal at a time: a newer one stops the one before.
 *
 * @param change what is on the page; nothing else is ever applied, even where it was rehearsed
 */
export function useRehearsal(change: () => Change) {
  const now = ref<Schemas['RehearsalInfo'] | null>(null)
  const error = ref<Error | null>(null)
  const changed = useRulesChanged()
  const of = ref('')
  const overtaken = computed(() => of.value !== JSON.stringify(change()))
  let asked = 0

  async function stop() {
    asked++
    const running = now.value?.state === 'running' ? now.value.id : ''
    now.value = null
    error.value = null
    if (running) await api.DELETE('/api/rehearsals/{id}', { params: { path: { id: running } } })
  }

  async function rehearse() {
    await stop()
    const mine = ++asked
    const body = change()
    of.value = JSON.stringify(body)
    try {
      let info = await answered(api.POST('/api/rehearsals', { body }))
      while (mine === asked) {
        now.value = info
        if (info.state !== 'running') return
        await new Promise((done) => setTimeout(done, ASK_AGAIN_MILLIS))
        info = await answered(api.GET('/api/rehearsals/{id}', { params: { path: { id: info.id } } }))
      }
    } catch (failed) {
      if (mine === asked) error.value = failed as Error
    }
  }

  async function act(what: 'apply' | 'undo') {
    const id = now.value?.id
    if (!id || (what === 'apply' && overtaken.value)) return false
    try {
      now.value = await answered(
        what === 'apply'
          ? api.POST('/api/rehearsals/{id}/apply', { params: { path: { id } } })
          : api.POST('/api/rehearsals/{id}/undo', { params: { path: { id } } }),
      )
      await changed()
      return true
    } catch (failed) {
      error.value = failed as Error
      return false
    }
  }

  onScopeDispose(() => void stop())
  return {
    now: computed(() => now.value),
    error: computed(() => error.value),
    overtaken,
    rehearse,
    stop,
    act,
  }
}

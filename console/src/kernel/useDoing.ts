import { ref } from 'vue'
import type { Refused } from '../api/client'

/** Does one thing at a time, and keeps why it was refused. */
export function useDoing() {
  const busy = ref(false)
  const refused = ref<Refused | null>(null)
  async function doing(what: () => Promise<unknown>) {
    busy.value = true
    refused.value = null
    try {
      await what()
    } catch (failed) {
      refused.value = failed as Refused
    } finally {
      busy.value = false
    }
  }
  return { busy, refused, doing }
}

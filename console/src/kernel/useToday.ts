import { onBeforeUnmount, ref, type Ref } from 'vue'
import { today } from './wall'

const EVERY_MILLIS = 30_000

/** The day on the wall, which is another one after midnight, however long a page stays open. */
export function useToday(): Readonly<Ref<Date>> {
  const day = ref(today())
  const timer = setInterval(() => {
    const now = today()
    if (now.getTime() !== day.value.getTime()) day.value = now
  }, EVERY_MILLIS)
  onBeforeUnmount(() => clearInterval(timer))
  return day
}

import { shallowRef } from 'vue'

/** Something that was done, said at the foot of the window, with the way back where there is one. */
export interface Notice {
  says: string
  undo?: () => Promise<unknown>
}

/** The newest; the one before it goes. */
export const notice = shallowRef<Notice | null>(null)

export function tell(says: string, undo?: () => Promise<unknown>): void {
  notice.value = { says, ...(undo && { undo }) }
}

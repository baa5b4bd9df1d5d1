import { shallowRef } from 'vue'
import { Refused } from '../api/client'

/** Something that was done, said at the foot of the window, with the way back where there is one. */
export interface Said {
  says: string
  undo?: () => Promise<unknown>
}

/** The newest; the one before it goes. */
export const said = shallowRef<Said | null>(null)

export function tell(says: string, undo?: () => Promise<unknown>): void {
  said.value = { says, ...(undo && { undo }) }
}

/** Says that something was not done, why, and what to do: for the rejection of what a click asked for. */
export function tellRefused(refused: unknown): void {
  if (refused instanceof Refused) tell(`${refused.message}. ${refused.todo}`)
  else tell(refused instanceof Error ? refused.message : 'It did not work; try again.')
}

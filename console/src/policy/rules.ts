import type { Schemas } from '../api/client'

type Rules = Schemas['PolicyRules']
export type EditedRules = Rules & Required<Pick<Rules, 'keeping' | 'creation' | 'folders'>>

const KEEPING: NonNullable<Rules['keeping']> = {
  title: '{title}',
  calendarRings: true,
  wins: 'later',
  deletionWins: false,
  deletedHere: 'remove',
  asks: false,
  missed: [],
}

/** A copy to edit, in which what an older policy does not say stands as it is meant. */
export function editable(rules: Rules): EditedRules {
  return JSON.parse(
    JSON.stringify({
      ...rules,
      keeping: rules.keeping ?? KEEPING,
      creation: rules.creation ?? { makes: 'nothing', conditions: [] },
      folders: rules.folders ?? { include: ['inbox', 'sent', 'archive'], exclude: [] },
    }),
  ) as EditedRules
}

/** What stands between commas. */
export function words(text: string): string[] {
  return text
    .split(',')
    .map((w) => w.trim())
    .filter(Boolean)
}

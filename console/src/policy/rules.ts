import type { Schemas } from '../api/client'

type Rules = Schemas['PolicyRules']
export type EditedRules = Rules &
  Required<Pick<Rules, 'keeping' | 'creation' | 'folders' | 'books' | 'opening'>>

const KEEPING: NonNullable<Rules['keeping']> = {
  title: '{title}',
  calendarRings: true,
  wins: 'later',
  deletionWins: false,
  deletedHere: 'remove',
  asks: false,
  missed: [],
}

const BOOKS: NonNullable<Rules['books']> = {
  takes: 'all',
  categories: [],
  creates: true,
  gives: 'own-accounts',
  recentDays: 90,
  most: 500,
  askAbove: 25,
  removedThere: 'keep',
  removedHere: 'keep',
  takesIf: null,
  givesIf: null,
  makesAccounts: null,
  ownBook: null,
}

const OPENING: NonNullable<Rules['opening']> = {
  does: 'nothing',
  conditions: [
    { field: 'accepted', comparison: 'is', value: 1 },
    { field: 'first-meeting', comparison: 'is', value: 1 },
  ],
  words: [],
  calendars: [],
  kinds: ['meeting', 'call'],
  stage: '',
  channel: '',
  owner: 'organiser',
  name: '{account}',
  makesAccounts: false,
  makesContacts: true,
  makesLeads: false,
  backDays: 7,
  mostADay: 50,
}

/** A copy to edit, in which what an older policy does not say stands as it is meant. */
export function editable(rules: Rules): EditedRules {
  return JSON.parse(
    JSON.stringify({
      ...rules,
      keeping: rules.keeping ?? KEEPING,
      creation: rules.creation ?? { makes: 'nothing', conditions: [] },
      folders: rules.folders ?? { include: ['inbox', 'sent', 'archive'], exclude: [] },
      books: rules.books ?? BOOKS,
      opening: rules.opening ?? OPENING,
    }),
  ) as EditedRules
}

type Fields = Record<string, unknown>

function isFields(value: unknown): value is Fields {
  return typeof value === 'object' && value !== null && !Array.isArray(value)
}

/**
 * What I changed of a base, put on top of what others have made of it meanwhile: field by field, lists as a whole.
 */
export function onTop<T>(base: T, mine: T, theirs: T): T {
  if (isFields(base) && isFields(mine) && isFields(theirs)) {
    const fields: Fields = {}
    for (const field of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      fields[field] = onTop(base[field], mine[field], theirs[field])
    }
    return fields as T
  }
  return JSON.stringify(mine) === JSON.stringify(base) ? theirs : mine
}

/** What stands between commas. */
export function words(text: string): string[] {
  return text
    .split(',')
    .map((w) => w.trim())
    .filter(Boolean)
}

import type { Schemas } from '../api/client'
import { words } from '../policy/rules'

export type More = Schemas['ContactMore']

/** As it stands in a form: tags are one text, and lists have rows. */
export type MoreForm = Omit<More, 'tags'> & { tags: string }

export const KINDS = [
  { value: '', title: 'No kind' },
  { value: 'work', title: 'Work' },
  { value: 'home', title: 'Home' },
]
export const KINDS_OF_NUMBERS = [...KINDS, { value: 'cell', title: 'Mobile' }, { value: 'fax', title: 'Fax' }]

export function formOf(more: More): MoreForm {
  return {
    ...(JSON.parse(JSON.stringify(more)) as More),
    tags: more.tags.filter((t) => !t.includes(',')).join(', '),
  }
}

/** @param seen what the form was filled from: a tag with a comma in it, which cannot be typed, stays */
export function moreOf(form: MoreForm, seen: More): More {
  return { ...form, tags: [...words(form.tags), ...seen.tags.filter((t) => t.includes(','))] }
}

const SINGLE = ['name', 'unit', 'role', 'birthday', 'note'] as const
const LISTS = ['mails', 'phones', 'places', 'urls'] as const
const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other)

/** Of a list, each by what it is, with its kind apart. */
function members(list: readonly { kind: string }[]): Map<string, { kind: string }> {
  return new Map(list.map((m) => [JSON.stringify({ ...m, kind: '' }), m]))
}

/**
 * What a form counts as filled from once somebody was told that another changed the same: what both changed is typed over what is there
 * now, and all else stays as it was, so that what the other changed besides is not undone.
 */
export function overNow(typed: More, before: More, now: More): More {
  const seen = JSON.parse(JSON.stringify(before)) as More
  const bothChanged = (was: unknown, is: unknown, wanted: unknown) =>
    !same(was, is) && !same(was, wanted) && !same(is, wanted)
  for (const field of SINGLE) {
    if (bothChanged(before[field], now[field], typed[field])) Object.assign(seen, { [field]: now[field] })
  }
  for (const field of LISTS) {
    const [was, is, wanted] = [members(before[field]), members(now[field]), members(typed[field])]
    const stands = new Map(was)
    for (const key of new Set([...was.keys(), ...is.keys(), ...wanted.keys()])) {
      if (!bothChanged(was.get(key) ?? null, is.get(key) ?? null, wanted.get(key) ?? null)) continue
      const member = is.get(key)
      if (member) stands.set(key, member)
      else stands.delete(key)
    }
    Object.assign(seen, { [field]: [...stands.values()] })
  }
  return seen
}

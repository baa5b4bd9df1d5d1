import type { Schemas } from '../api/client'
import type { Column, Kind } from './queries'

/** A column's heading; what its file calls it stands beside it where files are made. */
const TITLES: Record<string, string> = {
  key: 'Key',
  name: 'Name',
  addresses: 'Addresses',
  domains: 'Domains',
  phones: 'Telephones',
  owner: 'Owner',
  part_of: 'Part of',
  account: 'Account',
  title: 'Title',
  last_active: 'Last active',
  since: 'There since',
  company: 'Company',
  stage: 'Stage',
  state: 'State',
  value: 'Value',
  currency: 'Currency',
  period: 'Period',
  channel: 'Channel',
  contacts: 'Contacts',
  opportunities: 'Open deals',
  team: 'Team',
  role: 'Role',
}
export function titleOf(column: string): string {
  return TITLES[column] ?? column
}
/** A field of the company's own has the name that the company gave it. */
export function headingOf(column: Column): string {
  return column.title ?? titleOf(column.name)
}

export const KINDS: { value: Kind; title: string; one: string }[] = [
  { value: 'accounts', title: 'Accounts', one: 'account' },
  { value: 'contacts', title: 'Contacts', one: 'contact' },
  { value: 'leads', title: 'Leads', one: 'lead' },
  { value: 'opportunities', title: 'Opportunities', one: 'opportunity' },
  { value: 'people', title: 'Our people', one: 'person' },
]
export function kindOf(one: string): Kind | undefined {
  return KINDS.find((k) => k.one === one)?.value
}

/** What a cell shows: the name of what it refers to, where it refers to one. */
export function shown(row: Schemas['TableRow'], column: string): string {
  return row.values[`${column}_name`] ?? row.values[column] ?? ''
}
export const NUMBERS = ['count', 'amount', 'number']

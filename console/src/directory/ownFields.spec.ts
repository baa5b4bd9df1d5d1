import { describe, expect, it } from 'vitest'
import { keyFor, listOf, rowsOf } from './ownFields'

describe('fields of the company’s own', () => {
  it('have keys that follow their names', () => {
    expect(keyFor('Renewed on')).toBe('renewed_on')
    expect(keyFor('  Größe (m²) ')).toBe('gro_e_m2')
    expect(keyFor('2nd harbour')).toBe('nd_harbour')
    expect(keyFor('船')).toBe('')
    expect(keyFor('x'.repeat(60))).toHaveLength(40)
  })

  it('are edited with their choices in one line', () => {
    const segment = {
      key: 'segment',
      name: 'Segment',
      kind: 'choice',
      choices: ['Gold', 'Tin can'],
      contacts: 3,
    }
    const [row] = rowsOf([segment])
    expect(row).toMatchObject({ choices: 'Gold, Tin can', isNew: false })
    expect(listOf([row!])).toEqual([{ ...segment, contacts: 0 }])
    expect(listOf([{ ...row!, kind: 'text' }])[0]!.choices).toBeNull()
  })
})

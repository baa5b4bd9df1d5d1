import { computed } from 'vue'

/** A view for each state that some rows are in, with how many; the good one first. */
export function useStates(rows: () => { state: string }[] | undefined) {
  return computed(() => {
    const counts = new Map<string, number>()
    rows()?.forEach((r) => counts.set(r.state, (counts.get(r.state) ?? 0) + 1))
    const found = [...counts].sort(([a], [b]) =>
      a === 'capturing' ? -1 : b === 'capturing' ? 1 : a.localeCompare(b),
    )
    return [
      { value: '', title: 'all', n: rows()?.length },
      ...found.map(([value, n]) => ({ value, title: value.replaceAll('-', ' '), n })),
    ]
  })
}

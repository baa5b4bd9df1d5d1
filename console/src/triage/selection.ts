import { computed, ref, watch, type Ref } from 'vue'
import type { Schemas } from '../api/client'

type Domain = Schemas['DomainInfo']

/** Which strangers a choice is for: those ticked, else the one that the keys stand on. */
export function useSelection(domains: Ref<Domain[]>) {
  const ticked = ref<string[]>([])
  const current = ref(0)
  const rows = computed(() => domains.value.flatMap((d) => d.strangers))
  const domainOf = computed(
    () => new Map(domains.value.flatMap((d) => d.strangers.map((s) => [s.address, d] as const))),
  )
  const meant = computed(() => {
    const some = rows.value.filter((s) => ticked.value.includes(s.address))
    const one = rows.value[Math.min(current.value, rows.value.length - 1)]
    return some.length ? some : one ? [one] : []
  })
  /** Domains of which every stranger is meant, so that the choice can be for the domain itself. */
  const whole = computed(() => {
    const chosen = new Set(meant.value.map((s) => s.address))
    return domains.value
      .filter(
        (d) => !d.freeMail && ticked.value.length > 0 && d.strangers.every((s) => chosen.has(s.address)),
      )
      .map((d) => d.domain)
  })

  watch(rows, (now) => {
    current.value = Math.max(0, Math.min(current.value, now.length - 1))
    ticked.value = ticked.value.filter((a) => now.some((s) => s.address === a))
  })

  function tick(address: string) {
    ticked.value = ticked.value.includes(address)
      ? ticked.value.filter((a) => a !== address)
      : [...ticked.value, address]
  }
  function tickDomain(domain: Domain) {
    const all = domain.strangers.map((s) => s.address)
    const every = all.every((a) => ticked.value.includes(a))
    ticked.value = every
      ? ticked.value.filter((a) => !all.includes(a))
      : [...new Set([...ticked.value, ...all])]
  }
  return { ticked, current, rows, meant, whole, domainOf, tick, tickDomain }
}

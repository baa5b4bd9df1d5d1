<!-- a button of its own: it is drawn like a line of a book, every line alike -->
<script setup lang="ts">
import {
  mdiCalendarAccountOutline,
  mdiEmailArrowRightOutline,
  mdiEmailOutline,
  mdiFlagOutline,
  mdiLockOutline,
  mdiPaperclip,
  mdiPhoneOutline,
  mdiPinOutline,
} from '@mdi/js'
import { computed } from 'vue'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'
import MarkedText from './MarkedText.vue'
import type { Activity, Mark } from './queries'

const props = defineProps<{
  activity: Activity & { inSubject?: Mark[]; inSnippet?: Mark[] }
  picked: boolean
  tabindex: number
  day?: boolean
  nested?: boolean
}>()
defineEmits<{ open: [] }>()
/** What ties an activity to its record less surely than an address on it does. */
const BY: Record<string, string> = { domain: 'by domain', part: 'by a part', other_address: 'by variant' }
const isFull = computed(() => props.activity.visibility === 'full')
/** Who it was with: who wrote it, to whom it went, or who else takes part. */
const others = computed(() => {
  const a = props.activity
  const wanted = a.direction === 'in' ? ['from'] : null
  const ours = new Set(a.owners.map((o) => o.name))
  const names = a.people
    .filter((p) => (wanted ? wanted.includes(p.part) : p.part !== 'room' && !ours.has(p.name)))
    .map((p) => p.name || p.address)
  const all = [...new Set(names)]
  return all.slice(0, 2).join(', ') + (all.length > 2 ? ` and ${all.length - 2} more` : '')
})
const WORD: Record<string, string> = { in: 'from', out: 'to', '': 'with' }
/** What it is, as an icon with a name. */
const kind = computed(() => {
  const a = props.activity
  if (!isFull.value) return { icon: mdiLockOutline, name: `${a.sort || a.kind}, outline only` }
  if (a.kind === 'mail')
    return a.direction === 'out'
      ? { icon: mdiEmailArrowRightOutline, name: 'mail sent' }
      : { icon: mdiEmailOutline, name: 'mail received' }
  if (a.sort === 'call') return { icon: mdiPhoneOutline, name: 'call' }
  if (a.sort === 'follow-up') return { icon: mdiFlagOutline, name: 'follow-up' }
  return { icon: mdiCalendarAccountOutline, name: 'meeting' }
})
/** Whether what was looked for stands in the text. */
const isWithin = computed(() => (props.activity.inSnippet?.length ?? 0) > 0)
const tied = computed(() => `on this timeline by ${props.activity.evidence.replaceAll('_', ' ')}`)
</script>

<template>
  <button
    data-row
    :class="['act', { picked, day, nested }]"
    :tabindex="tabindex"
    :aria-current="picked"
    @click="$emit('open')"
  >
    <span class="at quiet"
      ><WhenAt
        :at="activity.at"
        :all-day="activity.allDay"
        :zone="activity.zone"
        :only="day ? undefined : 'clock'"
    /></span>
    <v-icon class="quiet" size="18" :icon="kind.icon" :title="kind.name" :aria-label="kind.name" role="img" />
    <span class="what clip">
      <template v-if="isFull">
        <span v-if="activity.mark" class="mark">{{ activity.mark }}</span>
        <b v-if="activity.subject"><MarkedText :text="activity.subject" :marks="activity.inSubject" /></b>
        <b v-else>(no subject)</b>
        <span
          v-if="activity.conversation > 1"
          class="count"
          :title="`the newest of ${many(activity.conversation, 'message')}`"
          >{{ activity.conversation }}</span
        >
        <v-icon
          v-if="activity.attachments"
          size="15"
          :icon="mdiPaperclip"
          role="img"
          :title="many(activity.attachments, 'attachment')"
          :aria-label="many(activity.attachments, 'attachment')"
        />
        <v-icon
          v-if="activity.evidence === 'ruling'"
          size="15"
          :icon="mdiPinOutline"
          role="img"
          title="pinned by hand"
          aria-label="pinned by hand"
        />
        <span class="quiet">
          {{ others ? `${WORD[activity.direction]} ${others}` : ''
          }}<template v-if="activity.snippet && !isWithin"
            >{{ others ? ' · ' : '' }}{{ activity.snippet }}</template
          ></span
        >
      </template>
      <template v-else><b>Private</b> <span class="quiet">only the time is visible to you</span></template>
    </span>
    <span class="quiet clip whose"
      ><span v-if="BY[activity.evidence]" class="by" :title="tied">{{ BY[activity.evidence] }} · </span
      >{{ activity.owners.map((o) => o.name).join(', ') }}</span
    >
    <!-- what was found may stand where a line would be cut off -->
    <span v-if="isWithin" class="quiet around"
      ><MarkedText :text="activity.snippet" :marks="activity.inSnippet"
    /></span>
  </button>
</template>

<style scoped>
.act {
  display: grid;
  grid-template-columns: 46px 20px minmax(0, 1fr) fit-content(190px);
  gap: 10px;
  align-items: center;
  width: 100%;
  padding: 5px 40px 5px 20px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.around {
  grid-column: 3 / -1;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
}
.act.day {
  grid-template-columns: 132px 20px minmax(0, 1fr) fit-content(190px);
}
.act.nested {
  padding-left: 46px;
  background: color-mix(in srgb, var(--surface) 60%, transparent);
}
.act:hover {
  background: color-mix(in srgb, var(--picked) 60%, transparent);
}
.act.picked {
  background: var(--picked);
  box-shadow: inset 3px 0 0 var(--accent);
}
.at {
  white-space: nowrap;
}
.whose {
  font-size: 12.5px;
}
.what .quiet {
  margin-left: 6px;
}
.what .v-icon {
  margin: -2px 2px 0;
}
.count {
  margin-left: 6px;
  padding: 0 6px;
  border-radius: 4px;
  background: var(--picked);
  font-size: 12px;
}
.picked .count {
  background: var(--surface);
}
.mark {
  margin-right: 6px;
  padding: 0 5px;
  border: 1px solid var(--line);
  border-radius: 3px;
  color: rgb(var(--v-theme-error));
  font-size: 12px;
}
@container (max-width: 600px) {
  .act {
    grid-template-columns: 46px 20px minmax(0, 1fr);
    padding-inline: 12px 36px;
  }
  .around {
    grid-column: 3 / -1;
  }
  .act.day {
    grid-template-columns: 118px 20px minmax(0, 1fr);
  }
  .whose {
    display: none;
  }
}
</style>

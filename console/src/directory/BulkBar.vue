<script setup lang="ts">
import { computed, ref } from 'vue'
import { tell } from '../kernel/snackbar'
import PickedBar from '../kernel/PickedBar.vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import PersonField from '../people/PersonField.vue'
import RecordField from '../timeline/RecordField.vue'
import { KINDS } from './columns'
import { useEditRows, withEffects, type Kind, type Row } from './queries'

/** Changes several rows at once: all of them, or none. */
const props = defineProps<{ kind: Kind; rows: Row[] }>()
const emit = defineEmits<{ done: [] }>()
const { mutateAsync: edit, error, isLoading } = useEditRows()
const owner = ref('')
const team = ref('')
const account = ref<{ id: string; name: string; key?: string } | null>(null)
const hasOwner = computed(() => ['accounts', 'leads', 'opportunities'].includes(props.kind))
const hasAccount = computed(() => ['contacts', 'opportunities'].includes(props.kind))
const archived = computed(() => props.rows.every((r) => r.archived))
const what = computed(() =>
  many(props.rows.length, KINDS.find((k) => k.value === props.kind)!.one, props.kind),
)

async function change(says: string, values: Record<string, string>, archive?: boolean) {
  const { kind } = props
  const rows = props.rows.map((r) => ({
    id: r.id,
    version: r.version,
    values,
    ...(archive !== undefined && { archived: archive }),
  }))
  await edit({ kind, rows }).then(
    (done) => {
      tell(withEffects(says, done), () => edit({ kind, rows: done.undo }))
      emit('done')
    },
    // said beside the buttons
    () => undefined,
  )
}
</script>

<template>
  <PickedBar :what="what" @none="emit('done')">
    <template v-if="hasOwner">
      <PersonField v-model="owner" by="key" label="New owner" class="field" />
      <v-btn
        size="small"
        variant="tonal"
        :disabled="!owner || isLoading"
        @click="change(`${what} have a new owner`, { owner })"
        >Set owner</v-btn
      >
    </template>
    <template v-if="hasAccount">
      <RecordField v-model="account" kind="account" label="New account" class="field" />
      <v-btn
        size="small"
        variant="tonal"
        :disabled="!account || isLoading"
        @click="change(`${what} moved to ${account!.name}`, { account: account!.key ?? '' })"
        >Move</v-btn
      >
    </template>
    <template v-if="kind === 'people'">
      <v-text-field v-model="team" label="New team" class="field" />
      <v-btn
        size="small"
        variant="tonal"
        :disabled="isLoading"
        @click="change(`${what} are in ${team || 'no team'}`, { team })"
        >Set team</v-btn
      >
    </template>
    <v-btn
      v-else
      size="small"
      variant="tonal"
      :disabled="isLoading"
      @click="change(`${archived ? 'Brought back' : 'Archived'}: ${what}`, {}, !archived)"
      >{{ archived ? 'Bring back' : 'Archive' }}</v-btn
    >
    <template #after><StateNote v-if="error" :error="error" /></template>
  </PickedBar>
</template>

<style scoped>
.field {
  flex: 0 1 190px;
}
</style>

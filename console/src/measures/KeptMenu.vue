<script setup lang="ts">
import { mdiBookmarkOutline, mdiClose, mdiEmailOutline } from '@mdi/js'
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { asked, useKeep, useKept, useForget, type Narrowed } from './queries'

/** Selections that somebody kept by name, and keeping the one that is shown. */
const props = defineProps<{ measure: string; narrowed: Narrowed }>()
const emit = defineEmits<{ show: [measure: string, query: Record<string, string>] }>()
const { data: kept } = useKept()
const keep = useKeep()
const forget = useForget()
const open = ref(false)
const name = ref('')
const weekly = ref(false)
const others = computed(() => (kept.value ?? []).some((k) => k.name === name.value.trim()))
function begin() {
  name.value = ''
  weekly.value = false
  keep.reset()
  open.value = true
}
async function submit() {
  const query = Object.fromEntries(Object.entries(asked(props.narrowed)).filter(([, value]) => value))
  await keep.mutateAsync({ name: name.value.trim(), measure: props.measure, query, weekly: weekly.value })
  open.value = false
}
</script>

<template>
  <v-menu>
    <template #activator="{ props: menu }">
      <v-btn v-bind="menu" size="small" variant="text" :prepend-icon="mdiBookmarkOutline">Kept</v-btn>
    </template>
    <v-list density="compact" min-width="260">
      <v-list-item title="Keep what is shown…" @click="begin" />
      <v-divider v-if="kept?.length" />
      <v-list-item v-for="k in kept" :key="k.id" :title="k.name" @click="emit('show', k.measure, k.query)">
        <template #append>
          <v-icon v-if="k.weekly" :icon="mdiEmailOutline" size="16" title="By mail on Mondays" class="mr-2" />
          <v-btn
            :icon="mdiClose"
            size="x-small"
            variant="text"
            :aria-label="`Remove ${k.name}`"
            @click.stop="forget.mutate(k.id)"
          />
        </template>
      </v-list-item>
    </v-list>
  </v-menu>
  <v-dialog v-model="open" max-width="440" aria-labelledby="keep-title">
    <v-card class="pa-5">
      <h2 id="keep-title">Keep these figures</h2>
      <p class="quiet">
        For yourself, with all that they are narrowed to. Without days of its own, a selection moves with the
        calendar: the last six months.
      </p>
      <form class="keep" @submit.prevent="submit().catch(() => undefined)">
        <v-text-field v-model="name" label="Name" maxlength="80" autofocus required />
        <v-checkbox v-model="weekly" label="Send them to me by mail each Monday" />
        <p v-if="others" class="quiet">What you kept by this name is written over.</p>
        <StateNote v-if="keep.error.value" :error="keep.error.value" />
        <p class="acts">
          <v-btn variant="text" size="small" @click="open = false">Cancel</v-btn>
          <v-btn
            type="submit"
            color="primary"
            size="small"
            :disabled="!name.trim()"
            :loading="keep.isLoading.value"
            >Keep</v-btn
          >
        </p>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.keep {
  display: grid;
  gap: 8px;
  margin-top: 12px;
}
.acts {
  display: flex;
  justify-content: end;
  gap: 8px;
}
</style>

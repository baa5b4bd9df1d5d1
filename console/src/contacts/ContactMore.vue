<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { ref } from 'vue'
import { Refused } from '../api/client'
import SaveButtons from '../kernel/SaveButtons.vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { formOf, KINDS, KINDS_OF_NUMBERS, moreOf, type More } from './moreOf'
import { useChangeMore } from './queries'

/** What is known of a contact besides the directory's columns, as a form. It goes out to the address books that the contact stands in. */
const props = defineProps<{ id: string; more: More }>()
const emit = defineEmits<{ done: [] }>()
/** What the form was filled from: what comes in meanwhile is not typed over. */
const seen = props.more
const form = ref(formOf(seen))
/** What somebody else changed as well, and was told of. */
const over = ref<string[]>([])
const { mutateAsync: change, error, isLoading } = useChangeMore()
const PARTS = [
  { name: 'prefix', label: 'Before the name' },
  { name: 'given', label: 'First names' },
  { name: 'additional', label: 'Middle names' },
  { name: 'family', label: 'Last name' },
  { name: 'suffix', label: 'After the name' },
] as const
const PLACE = [
  { name: 'street', label: 'Street' },
  { name: 'code', label: 'Postal code' },
  { name: 'town', label: 'Town' },
  { name: 'region', label: 'Region' },
  { name: 'country', label: 'Country' },
] as const

function addPlace() {
  form.value.places.push({ street: '', town: '', region: '', code: '', country: '', kind: '' })
}
async function save() {
  const { id } = props
  const wanted = moreOf(form.value, seen)
  try {
    await change({ id, seen, wanted, over: over.value })
    // what others change meanwhile stays
    tell('Saved the details', () => change({ id, seen: wanted, wanted: seen, over: [] }))
    emit('done')
  } catch (refused) {
    if (refused instanceof Refused && refused.status === 409)
      over.value = refused.problems.map((p) => p.column)
  }
}
</script>

<template>
  <form class="known" @submit.prevent="save">
    <div class="parts" role="group" aria-label="Parts of the name">
      <v-text-field v-for="p in PARTS" :key="p.name" v-model="form.name[p.name]" :label="p.label" />
    </div>
    <div class="two">
      <v-text-field v-model="form.unit" label="Unit of the company" />
      <v-text-field v-model="form.role" label="Role" />
      <v-text-field v-model="form.birthday" label="Birthday" placeholder="1980-04-02, or --04-02" />
      <v-text-field v-model="form.tags" label="Tags" placeholder="with commas between" />
    </div>
    <div v-for="m in form.mails" :key="m.value" class="row" role="group" :aria-label="m.value">
      <span class="value">{{ m.value }}</span>
      <v-select v-model="m.kind" :items="KINDS" label="Kind" />
    </div>
    <div v-for="p in form.phones" :key="p.value" class="row" role="group" :aria-label="p.value">
      <span class="value">{{ p.value }}</span>
      <v-select v-model="p.kind" :items="KINDS_OF_NUMBERS" label="Kind" />
    </div>
    <div
      v-for="(p, i) in form.places"
      :key="i"
      class="place"
      role="group"
      :aria-label="`Postal address ${i + 1}`"
    >
      <v-text-field v-for="f in PLACE" :key="f.name" v-model="p[f.name]" :label="f.label" />
      <v-select v-model="p.kind" :items="KINDS" label="Kind" />
      <v-btn
        class="gone"
        :prepend-icon="mdiClose"
        size="small"
        variant="text"
        @click="form.places.splice(i, 1)"
        >Remove this address</v-btn
      >
    </div>
    <div v-for="(web, i) in form.urls" :key="i" class="row" role="group" :aria-label="`Web address ${i + 1}`">
      <v-text-field v-model="web.value" label="Web address" />
      <v-select v-model="web.kind" :items="KINDS" label="Kind" />
      <v-btn
        :icon="mdiClose"
        size="x-small"
        variant="text"
        :aria-label="`Remove web address ${i + 1}`"
        @click="form.urls.splice(i, 1)"
      />
    </div>
    <p class="adds">
      <v-btn size="small" variant="tonal" @click="addPlace">Add a postal address</v-btn>
      <v-btn size="small" variant="tonal" @click="form.urls.push({ value: '', kind: '' })"
        >Add a web address</v-btn
      >
    </p>
    <v-textarea v-model="form.note" label="Note" rows="3" maxlength="10000" />
    <StateNote v-if="error" :error="error" @again="save" />
    <p class="quiet">It goes out to the address books that this contact stands in.</p>
    <SaveButtons :saving="isLoading" @cancel="$emit('done')" />
  </form>
</template>

<style scoped>
.known {
  display: grid;
  gap: 12px;
  max-width: 640px;
  margin-top: 8px;
}
.parts,
.two,
.place {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 8px 12px;
}
.place {
  border-left: 3px solid var(--line);
  padding-left: 10px;
}
.gone {
  justify-self: start;
  align-self: center;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px 32px;
  gap: 8px 12px;
  align-items: center;
}
.value {
  overflow-wrap: anywhere;
}
.adds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>

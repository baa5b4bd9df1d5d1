<script setup lang="ts">
import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import ChangedMeanwhile from '../kernel/ChangedMeanwhile.vue'
import StateNote from '../kernel/StateNote.vue'
import { useAskAgain } from '../kernel/askAgain'
import { useEdited } from '../kernel/useEdited'

/** The domains that matching knows: our own, public mail providers, and those that ignore dots. */
const askAgain = useAskAgain()
const { data, error, asyncStatus, refetch } = useQuery({
  key: ['company'],
  query: ({ signal }) => answered(api.GET('/api/company', { signal })),
})
const NAMES = {
  own: 'the list of our own domains',
  freeMail: 'the list of public mail providers',
  dotless: 'the list of providers that ignore dots',
}
const { form, changed, news, saved } = useEdited(() => ({
  own: (data.value?.own ?? []).join(' '),
  freeMail: (data.value?.freeMail ?? []).join(' '),
  dotless: (data.value?.dotless ?? []).join(' '),
}))
function domains(text: string): string[] {
  return text.split(/[\s,;]+/).filter(Boolean)
}
const save = useMutation({
  mutation: (body: Schemas['CompanyDomains']) => answered(api.PUT('/api/company', { body })),
  onSuccess: () => {
    saved()
    return askAgain('company')
  },
})
function submit() {
  save.mutate({
    own: domains(form.own),
    freeMail: domains(form.freeMail),
    dotless: domains(form.dotless),
  })
}
</script>

<template>
  <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
  <form v-else class="domains" @submit.prevent="submit">
    <h2>Domains</h2>
    <v-textarea v-model="form.own" label="Our own domains" rows="2" />
    <v-textarea v-model="form.freeMail" label="Public mail providers" rows="5" />
    <p class="quiet">Their domains never identify an account.</p>
    <v-textarea v-model="form.dotless" label="Providers that ignore dots" rows="2" />
    <p class="quiet">Addresses there that differ only by dots are the same.</p>
    <ChangedMeanwhile :news="news" :names="NAMES" />
    <StateNote v-if="save.error.value" :error="save.error.value" @again="submit" />
    <p>
      <v-btn type="submit" size="small" color="primary" :disabled="!changed" :loading="save.isLoading.value"
        >Save domains</v-btn
      >
      <span v-if="save.status.value === 'success'" role="status" class="quiet ml-3"
        >Saved; what carries them is decided again.</span
      >
    </p>
  </form>
</template>

<style scoped>
.domains {
  display: grid;
  gap: 12px;
  padding: 14px 20px;
  max-width: 640px;
}
</style>

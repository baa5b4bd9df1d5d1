<script setup lang="ts">
import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useAskAgain } from '../kernel/askAgain'
import { useEdited } from '../kernel/useEdited'

/** The domains that matching knows: our own, those where anybody can have an address, and those that ignore dots. */
const askAgain = useAskAgain()
const { data, error, asyncStatus, refetch } = useQuery({
  key: ['company'],
  query: ({ signal }) => answered(api.GET('/api/company', { signal })),
})
const { form, saved } = useEdited(() => ({
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
    <label class="field">our own<textarea v-model="form.own" rows="2"></textarea></label>
    <label class="field"
      >where anybody can have an address, so that the domain says nothing<textarea
        v-model="form.freeMail"
        rows="5"
      ></textarea>
    </label>
    <label class="field"
      >providers that ignore dots: addresses there that differ only by dots are the same<textarea
        v-model="form.dotless"
        rows="2"
      ></textarea>
    </label>
    <StateNote v-if="save.error.value" :error="save.error.value" @again="submit" />
    <p>
      <v-btn type="submit" size="small" color="primary" :loading="save.isLoading.value">Save domains</v-btn>
      <span v-if="save.status.value === 'success'" role="status" class="quiet ml-3"
        >Changed; what carries them is decided again.</span
      >
    </p>
  </form>
</template>

<style scoped>
.domains {
  display: grid;
  gap: 9px;
  padding: 14px 20px;
  max-width: 640px;
}
</style>

<script setup lang="ts">
import { useMutation, useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useRulesChanged } from '../exclusions/queries'
import StateNote from '../shared/StateNote.vue'
import { useMe } from '../shared/useMe'

const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = useQuery({
  key: ['policy'],
  query: ({ signal }) => answered(api.GET('/api/policy', { signal })),
})
const draft = ref<Schemas['PolicyInfo'] | null>(null)
// the copy is edited; a refetch does not replace it while it differs
watch(data, (now) => now && (!draft.value || !differs.value) && (draft.value = { ...now }), {
  immediate: true,
})
const differs = computed(() => JSON.stringify(draft.value) !== JSON.stringify(data.value))
const changed = useRulesChanged()
const save = useMutation({
  mutation: (body: Schemas['PolicyInfo']) => answered(api.PUT('/api/policy', { body })),
  onSuccess: async (now) => {
    draft.value = { ...now }
    await refetch()
    await changed()
  },
})
</script>

<template>
  <div class="page">
    <header>
      <h1>Policy</h1>
      <span v-if="data" class="quiet"
        >version {{ data.version }}; it counts for everybody who is connected</span
      >
    </header>
    <div class="panes">
      <StateNote
        v-if="error || !draft"
        :error="error"
        :loading="asyncStatus === 'loading'"
        @again="refetch()"
      />
      <form v-else class="pane sentences" @submit.prevent="save.mutate(draft)">
        <fieldset :disabled="!isAdministrator">
          <p>
            Mail
            <select v-model="draft.mail" aria-label="Mail">
              <option :value="true">is captured</option>
              <option :value="false">is not captured</option>
            </select>
            from the inbox and the folder of sent mail.
          </p>
          <p>
            Meetings
            <select v-model="draft.meetings" aria-label="Meetings">
              <option :value="true">are captured</option>
              <option :value="false">are not captured</option>
            </select>
            from all calendars, up to
            <input
              v-model.number="draft.aheadDays"
              type="number"
              min="0"
              max="36525"
              aria-label="Days ahead"
            />
            days ahead.
          </p>
          <p>
            Capture begins
            <input v-model.number="draft.backDays" type="number" min="0" max="36525" aria-label="Days back" />
            days before the day on which somebody connects.
          </p>
          <p>
            What is logged is read in full by
            <select v-model="draft.sharing" aria-label="Who reads it">
              <option value="everyone">everyone who signs in</option>
              <option value="those-on-it">
                those on it; everybody else sees only when it is and whose
              </option></select
            >.
          </p>
          <p>
            A meeting marked private is read in full by its owner alone. Mail written by programs, sent in
            bulk or through mailing lists, and what is among ourselves, is left out.
          </p>
        </fieldset>
        <div v-if="isAdministrator" class="d-flex ga-3 mt-5">
          <v-btn
            type="submit"
            color="primary"
            :disabled="!differs"
            :loading="save.asyncStatus.value === 'loading'"
            >Change the policy</v-btn
          >
          <v-btn v-if="differs && data" variant="text" @click="draft = { ...data }">Leave it as it is</v-btn>
        </div>
        <StateNote v-if="save.error.value" :error="save.error.value" @again="refetch()" />
        <p class="quiet mt-5">
          A change makes a new version. Everything known is decided again under it; nothing is lost by turning
          something off, it comes back from the mailboxes and calendars.
        </p>
      </form>
    </div>
  </div>
</template>

<style scoped>
.sentences {
  flex: 1;
  padding: 18px 20px;
}
fieldset {
  border: 0;
  padding: 0;
}
.sentences p {
  max-width: 76ch;
  margin-bottom: 12px;
  font-size: 15px;
}
select,
input {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 2px solid var(--accent);
  padding: 1px 2px;
}
select option {
  background: var(--surface);
}
input {
  width: 6ch;
  text-align: right;
}
:disabled select,
:disabled input {
  border-bottom-color: var(--line);
  opacity: 1;
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tellRefused } from '../kernel/snackbar'
import AddReader from './AddReader.vue'
import { useEndReader, useReaders, useReaderSetup } from './readerQueries'

/** Who reads from PostgreSQL itself: reporting programs, each as somebody. */
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const adding = ref(false)
/** The login whose end is to be confirmed. */
const ending = ref('')
const { data, error, asyncStatus, refetch } = useReaders()
const { data: setup } = useReaderSetup()
const end = useEndReader()
const unprepared = computed(() => setup.value && !setup.value.prepared)
async function confirm(login: string) {
  await end.mutateAsync(login).catch(tellRefused)
  ending.value = ''
}
</script>

<template>
  <v-dialog v-model="open" max-width="760" aria-labelledby="readers-title" @after-leave="emit('close')">
    <v-card class="pa-5">
      <h2 id="readers-title">Readers</h2>
      <p class="quiet mb-3">
        Logins of PostgreSQL by which reporting programs read: what somebody of that role may read, and
        nothing else.
      </p>
      <template v-if="unprepared">
        <p>
          PostgreSQL is not prepared for readers. One of its superusers runs this in the service’s database,
          once:
        </p>
        <v-textarea class="mono my-2" readonly rows="6" label="Script" :model-value="setup?.script" />
      </template>
      <StateNote
        v-if="error || !data?.length"
        :error="error"
        :loading="asyncStatus === 'loading' && !data"
        empty="There is no reader"
        :todo="unprepared ? '' : 'Add one for each program.'"
        @again="refetch()"
      />
      <div v-else class="scrolls">
        <v-table class="plain" aria-label="Readers">
          <thead>
            <tr>
              <th>Login</th>
              <th>For</th>
              <th>Reads as</th>
              <th>Added</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in data" :key="r.login">
              <td class="mono">{{ r.login }}</td>
              <td>{{ r.name === r.login ? '' : r.name }}</td>
              <td>
                {{ r.personName ? `${r.personName}, ${r.role}` : r.role
                }}<span v-if="r.teams" class="quiet"> of {{ r.teams.join(', ') }}</span>
                <span v-if="!r.works" class="bad"> not known to PostgreSQL</span>
              </td>
              <td><WhenAt :at="r.addedAt" /> by {{ r.addedBy }}</td>
              <td class="acts">
                <template v-if="ending === r.login">
                  <v-btn size="x-small" color="error" :loading="end.isLoading.value" @click="confirm(r.login)"
                    >End it now</v-btn
                  >
                  <v-btn size="x-small" variant="text" @click="ending = ''">Cancel</v-btn>
                </template>
                <v-btn
                  v-else
                  size="x-small"
                  variant="text"
                  :aria-label="`End ${r.login}`"
                  @click="ending = r.login"
                  >End…</v-btn
                >
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <div class="d-flex ga-3 mt-4">
        <v-btn color="primary" size="small" :disabled="!setup?.prepared" @click="adding = true"
          >Add a reader…</v-btn
        >
        <v-btn variant="text" size="small" @click="open = false">Close</v-btn>
      </div>
    </v-card>
    <AddReader v-if="adding" @close="adding = false" />
  </v-dialog>
</template>

<style scoped>
.scrolls {
  overflow-x: auto;
}
.acts {
  text-align: right;
  white-space: nowrap;
}
.bad {
  color: rgb(var(--v-theme-error));
}
</style>

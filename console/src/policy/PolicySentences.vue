<script setup lang="ts">
import { computed } from 'vue'
import AudienceSentence from './AudienceSentence.vue'
import BookSentences from './BookSentences.vue'
import CaptureSentences from './CaptureSentences.vue'
import CreationSentence from './CreationSentence.vue'
import OpeningSentence from './OpeningSentence.vue'
import KeepingSentences from './KeepingSentences.vue'
import MatchingSentence from './MatchingSentence.vue'
import OutwardSentence from './OutwardSentence.vue'
import type { EditedRules } from './rules'

/** A policy as sentences; the underlined parts are edited in place, on a copy that its page holds. */
const rules = defineModel<EditedRules>({ required: true })
defineProps<{ disabled: boolean; policy?: string }>()
const goesOut = computed(() => ['out', 'both'].includes(rules.value.meetings))
</script>

<template>
  <v-form :disabled="disabled" class="rules" aria-label="Rules">
    <AudienceSentence v-model="rules" />
    <CaptureSentences v-model="rules" />
    <OutwardSentence v-if="goesOut" v-model="rules" />
    <KeepingSentences v-model="rules" />
    <BookSentences v-model="rules" />
    <MatchingSentence v-model="rules" />
    <CreationSentence v-model="rules" :policy="policy" />
    <OpeningSentence v-model="rules" :policy="policy" />
    <p class="quiet">
      Mail that programs write or that is sent in bulk, and what stays inside the company, is always left out;
      so are cards that their owner marks as private.
    </p>
  </v-form>
</template>

<style>
.rules p {
  max-width: 74ch;
  margin-bottom: 11px;
  font-size: 15px;
  line-height: 1.9;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import BookConditions from './BookConditions.vue'
import { words, type EditedRules } from './rules'

/** Which cards come in from address books, and which contacts go out to them. */
const rules = defineModel<EditedRules>({ required: true })
const books = computed(() => rules.value.books)
const comesIn = computed(() => ['in', 'both'].includes(rules.value.contacts))
const goesOut = computed(() => ['out', 'both'].includes(rules.value.contacts))
const categories = computed({
  get: () => books.value.categories.join(', '),
  set: (text: string) => {
    books.value.categories = words(text)
  },
})
const WAYS = [
  { title: 'are not synced', value: 'none' },
  { title: 'come in from address books', value: 'in' },
  { title: 'go out to address books', value: 'out' },
  { title: 'are kept the same in address books and here', value: 'both' },
]
const TAKES = [
  { title: 'All cards that are not private', value: 'all' },
  { title: 'Only cards in the categories', value: 'categories' },
  { title: 'Only cards whose', value: 'conditions' },
]
const INTO = [
  { title: 'the person’s own book', value: false },
  { title: 'a book of their own, called', value: true },
]
const apart = computed({
  get: () => Boolean(books.value.ownBook),
  set: (is: boolean) => {
    books.value.ownBook = is ? 'Customers' : null
  },
})
const CREATES = [
  { title: 'becomes a contact', value: true },
  { title: 'is left out', value: false },
]
const MAKES_ACCOUNTS = [
  { title: 'waits until somebody says which account it is', value: false },
  { title: 'becomes an account', value: true },
]
const makesAccounts = computed({
  get: () => books.value.makesAccounts === true,
  set: (makes: boolean) => {
    books.value.makesAccounts = makes
  },
})
const GIVES = [
  { title: 'of the accounts that one owns', value: 'own-accounts' },
  { title: 'that one was in touch with lately', value: 'recent' },
  { title: 'of the whole directory', value: 'all' },
  { title: 'whose', value: 'conditions' },
]
const REMOVED_THERE = [
  { title: 'stays a contact here', value: 'keep' },
  { title: 'is archived here', value: 'remove' },
  { title: 'stays until somebody says whether to archive them', value: 'ask' },
]
const REMOVED_HERE = [
  { title: 'stay where they are', value: 'keep' },
  { title: 'are removed from the books', value: 'remove' },
  { title: 'stay until somebody says whether to remove them', value: 'ask' },
]
</script>

<template>
  <p>
    Contacts <word-select v-model="rules.contacts" aria-label="Contacts" :items="WAYS" />.
    <template v-if="comesIn">
      <word-select v-model="books.takes" aria-label="Which cards" :items="TAKES" />
      <template v-if="books.takes === 'categories'"
        >&nbsp;<word-field
          v-model.lazy="categories"
          class="pattern"
          aria-label="Categories that come in"
          placeholder="customers"
          maxlength="300"
      /></template>
      <BookConditions
        v-else-if="books.takes === 'conditions'"
        v-model="books.takesIf"
        of="Cards that come in"
      />
      come in; somebody who is nobody’s contact yet
      <word-select v-model="books.creates" aria-label="Somebody new" :items="CREATES" /><template
        v-if="books.creates"
        >; their company, where no account is like it,
        <word-select v-model="makesAccounts" aria-label="A new company" :items="MAKES_ACCOUNTS" /></template
      >. A person who is removed from a book
      <word-select v-model="books.removedThere" aria-label="Removed from a book" :items="REMOVED_THERE" />.
    </template>
    <template v-if="goesOut">
      Contacts <word-select v-model="books.gives" aria-label="Which contacts" :items="GIVES" />
      <template v-if="books.gives === 'recent'">
        (<word-field
          v-model.number="books.recentDays"
          class="days"
          type="number"
          min="1"
          aria-label="Days of recent contact"
        />
        days)
      </template>
      <BookConditions
        v-else-if="books.gives === 'conditions'"
        v-model="books.givesIf"
        of="Contacts that go out"
        own
      />
      go out, at most
      <word-field v-model.number="books.most" class="days" type="number" min="0" aria-label="Most contacts" />
      to one person, into <word-select v-model="apart" aria-label="Into which book" :items="INTO" /><template
        v-if="apart"
        >&nbsp;<word-field
          v-model.lazy="books.ownBook"
          class="pattern"
          aria-label="Name of that book"
          maxlength="100" /></template
      >; the cards of a contact that is removed here
      <word-select v-model="books.removedHere" aria-label="Removed here" :items="REMOVED_HERE" />.
    </template>
    <template v-if="comesIn || goesOut">
      More than
      <word-field v-model.number="books.askAbove" class="days" type="number" min="0" aria-label="Ask above" />
      new contacts and cards of one book at once wait until somebody has seen them.
    </template>
  </p>
</template>

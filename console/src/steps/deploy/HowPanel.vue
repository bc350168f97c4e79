<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import type { How } from './sheet'

/** The sheet's fields; changed in place. */
const how = defineModel<How>({ required: true })
defineProps<{ categories: string[]; picking?: boolean }>()
const TRADE = {
  column:
    'Each graded item becomes a link with a gradebook column; its scores arrive there one by one.',
  link: 'Learners open the items, but no score reaches the gradebook. Add one average column under “Placed”, if you want a single number.',
}
</script>

<template>
  <fieldset>
    <legend class="sr-only">How they are to stand</legend>
    <div class="grid">
      <label
        >Graded items
        <select aria-label="Graded items" v-model="how.graded">
          <option value="column">with a column each</option>
          <option value="link">as links only</option>
        </select></label
      >
      <label
        >Without a date
        <select aria-label="Without a date" v-model="how.undated">
          <option value="ask">leave out and ask</option>
          <option value="column">with a column</option>
          <option value="link">as a link only</option>
        </select></label
      >
      <label
        >Category
        <input
          aria-label="Category"
          v-model="how.category"
          list="categories"
          placeholder="publisher" /><datalist id="categories">
          <option value="publisher">the publisher's</option>
          <option value="none">none</option>
          <option v-for="each in categories" :key="each" :value="each" /></datalist
      ></label>
      <label
        >Order
        <select aria-label="Order" v-model="how.by">
          <option value="publisher">the publisher's</option>
          <option value="due">by due date</option>
          <option value="unit">by unit</option>
          <option value="chosen">as I chose them</option>
        </select></label
      >
      <label
        >Learners
        <select aria-label="Learners" v-model="how.show">
          <option value="shown">see them at once</option>
          <option value="before">see them before they are due</option>
          <option value="from">see them from a day</option>
          <option value="hidden">do not see them</option>
        </select></label
      >
      <label v-if="how.show === 'before'"
        >Days before
        <input aria-label="Days before" v-model.number="how.before" type="number" min="0" max="365"
      /></label>
      <label v-if="how.show === 'from'"
        >From <input aria-label="From" v-model="how.from" type="datetime-local"
      /></label>
      <label
        >Opens
        <select aria-label="Opens" v-model="how.window">
          <option :value="false">in place</option>
          <option :value="true">in a new window</option>
        </select></label
      >
      <label class="wide"
        >Titles
        <NInput
          v-model:value="how.pattern"
          size="small"
          placeholder="as they are, or for example {unit}: {title}"
          :input-props="{ 'aria-label': 'Pattern for titles' }"
      /></label>
      <template v-if="!picking">
        <label class="check"
          ><input v-model="how.update" type="checkbox" /> bring up to date what stands
          already</label
        >
        <label class="check"><input v-model="how.move" type="checkbox" /> move it here too</label>
      </template>
    </div>
    <p class="soft">
      {{ TRADE[how.graded] }} Points and due dates are the publisher's; weights and drop rules stay
      the gradebook's.
    </p>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(13rem, 1fr));
  gap: 0.5rem 0.9rem;
  align-items: end;
}
label {
  display: grid;
  gap: 0.1rem;
  font-size: 0.85rem;
  color: var(--soft);
}
.check {
  display: flex;
  gap: 0.4rem;
  align-items: baseline;
  color: var(--ink);
}
select,
input {
  font: inherit;
  font-size: 0.95rem;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.25rem 0.4rem;
  accent-color: var(--both);
  min-width: 0;
}
.wide {
  grid-column: span 2;
}
p {
  margin: 0.6rem 0 0;
  font-size: 0.9rem;
}
@media (max-width: 640px) {
  .wide {
    grid-column: auto;
  }
}
</style>

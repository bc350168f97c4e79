<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { consentQuery } from './queries'

const props = defineProps<{ shell: string }>()
const { data } = useQuery(computed(() => consentQuery(props.shell)))
</script>

<template>
  <div v-if="data" class="uses">
    <div class="reads">
      <h3>{{ $t('consent.reads') }}</h3>
      <ul>
        <li v-for="use in data.reads" :key="use.code">
          <strong>{{ use.what }}</strong>: {{ use.purpose }}
        </li>
      </ul>
    </div>
    <div class="writes">
      <h3>{{ $t('consent.writes') }}</h3>
      <ul>
        <li v-for="use in data.writes" :key="use.code">
          <strong>{{ use.what }}</strong>: {{ use.purpose }}
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.uses {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
}
.uses > div {
  border-radius: 10px;
  padding: 0.6rem 0.9rem;
  background: var(--right-wash);
}
.uses > .writes {
  background: var(--both-wash);
}
h3 {
  margin: 0 0 0.2rem;
  font-size: 0.95rem;
}
ul {
  margin: 0;
  padding-left: 1.1rem;
}
@media (max-width: 640px) {
  .uses {
    grid-template-columns: 1fr;
  }
}
</style>

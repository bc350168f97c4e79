<script setup lang="ts">
import { RouterView } from 'vue-router'
import { useGoing } from './going'

const { going, notLoaded } = useGoing()
</script>

<template>
  <div v-if="going" class="going" role="progressbar" :aria-label="$t('frame.going')"></div>
  <RouterView />
  <div v-if="notLoaded" class="not-loaded" role="alert">
    <strong>{{ $t('frame.not_loaded') }}</strong>
    <span>{{ $t('frame.not_loaded_means') }}</span>
    <a :href="notLoaded">{{ $t('frame.not_loaded_again') }}</a>
  </div>
</template>

<style scoped>
/* Not where it is quick: a line that flashes at each click says nothing. */
.going {
  position: fixed;
  inset: 0 0 auto;
  height: 3px;
  z-index: 20;
  background: linear-gradient(90deg, var(--left), var(--both), var(--right));
  transform-origin: left;
  opacity: 0;
  animation: go 4s 0.3s forwards ease-out;
}
@keyframes go {
  from {
    opacity: 1;
    transform: scaleX(0.1);
  }
  to {
    opacity: 1;
    transform: scaleX(0.9);
  }
}
.not-loaded {
  position: fixed;
  inset: auto 0 0;
  z-index: 20;
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.8rem;
  padding: 0.6rem 1.2rem;
  background: var(--sheet);
  color: var(--ink);
  border-top: 3px solid var(--both);
}
</style>

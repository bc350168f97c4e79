<script setup lang="ts">
import { ref } from 'vue'

/** An input that keeps what is being typed while what is around it is drawn again. */
defineProps<{ value?: string }>()
const typed = ref<string>()
</script>

<template>
  <input
    :value="typed ?? value"
    @input="typed = ($event.target as HTMLInputElement).value"
    @change="typed = undefined"
  />
</template>

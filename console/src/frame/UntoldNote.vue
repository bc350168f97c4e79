<script setup lang="ts">
import { NAlert } from 'naive-ui/es/alert'
import { NButton } from 'naive-ui/es/button'
import { problemWords } from '@/parts/problemWords'
import { useUntold } from '@/parts/untold'

const { problems, again } = useUntold()
</script>

<template>
  <div v-if="problems.length" class="untold">
    <NAlert type="error" role="alert" :title="$t('frame.untold')" :bordered="false">
      {{ $t('frame.untold_means') }}
      <p v-for="each in problems" :key="each.message">
        {{ problemWords(each).what }} {{ problemWords(each).remedy }}
      </p>
      <NButton size="small" @click="again()">{{ $t('common.try_again') }}</NButton>
    </NAlert>
  </div>
</template>

<style scoped>
.untold {
  max-width: 76rem;
  margin: 0.8rem auto 0;
  padding: 0 1.2rem;
}
p {
  margin: 0.3rem 0 0.5rem;
}
@media (max-width: 640px) {
  .untold {
    padding: 0 0.8rem;
  }
}
</style>

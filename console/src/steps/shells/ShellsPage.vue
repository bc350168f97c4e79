<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NInput } from 'naive-ui/es/input'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import EmptyNote from '@/parts/EmptyNote.vue'
import SeveralBar from './SeveralBar.vue'
import ShellCard from './ShellCard.vue'
import { useShells } from './useShells'

const FEW = 6 // shells up to which nobody needs to search
const {
  all,
  shells,
  words,
  here,
  picking,
  picked,
  paired,
  chosen,
  choose,
  chooseAll,
  open,
  unpaired,
  reading,
} = useShells()
</script>

<template>
  <div class="page">
    <h1>{{ $t('shells.title') }}</h1>
    <AfterReading
      :reading="reading"
      :what="$t('shells.what')"
      :none="!all.length && $t('today.no_shells')"
      :none-means="$t('today.no_shells_means')"
    >
      <div class="row head">
        <span class="soft"
          >{{ $t('count.shells', all.length) }}, {{ $t('shells.attention', open) }}</span
        >
        <NInput
          v-if="all.length > FEW"
          v-model:value="words"
          class="find"
          size="small"
          clearable
          :placeholder="$t('shells.find')"
          :input-props="{ 'aria-label': $t('shells.find'), type: 'search' }"
        />
        <NButton v-if="paired.length > 1" size="small" @click="picking = !picking">{{
          picking ? $t('common.close') : $t('shells.do_several')
        }}</NButton><NCheckbox
          v-if="picking"
          :checked="chosen.length === paired.length"
          :indeterminate="chosen.length > 0 && chosen.length < paired.length"
          @update:checked="chooseAll"
          >{{ $t('shells.all_paired', { n: paired.length }) }}</NCheckbox
        ><RouterLink v-if="unpaired > 1" class="push" :to="{ name: 'begin-set-up' }">{{
          $t('shells.set_up_together', { n: unpaired })
        }}</RouterLink>
      </div>
      <SeveralBar v-if="picking" :chosen="chosen" />
      <EmptyNote v-if="!shells.length" :title="$t('shells.no_match', { words })"
        ><NButton size="small" @click="words = ''">{{ $t('common.clear') }}</NButton></EmptyNote
      >
      <ul class="shells">
        <ShellCard v-for="shell in shells" :key="shell.id" :shell="shell" :here="shell.id === here">
          <NCheckbox
            v-if="picking && shell.pairing"
            :checked="picked.includes(shell.id)"
            :aria-label="$t('shells.choose', { shell: shell.label })"
            @update:checked="(on: boolean) => choose([shell.id], on)"
          />
        </ShellCard>
      </ul>
    </AfterReading>
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 0.8rem;
}
.find {
  width: 18rem;
}
.shells {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 0.7rem;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 33rem), 1fr));
}
</style>

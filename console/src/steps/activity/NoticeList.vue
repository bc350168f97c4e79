<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import { RouterLink } from 'vue-router'
import { inZone, ownZone } from '@/logic/dates'
import { useNotices } from './useNotices'

/** What the service told one, the newest first; what was seen is read once one leaves. */
const props = withDefaults(defineProps<{ most?: number }>(), { most: 50 })
defineEmits<{ follow: [] }>()
const { data, ...reading } = useNotices(props.most)
const zone = ownZone()
</script>

<template>
  <AfterReading
    :reading="reading"
    :what="$t('notices.what')"
    :none="!data?.results.length && $t('notices.empty')"
    :none-means="$t('notices.empty_means')"
  >
    <ol v-if="data">
      <li v-for="notice in data.results" :key="notice.id" :class="{ fresh: !notice.read_at }">
        <time :datetime="notice.at" class="soft">{{ inZone(notice.at, zone) }}</time>
        <span
          ><span v-if="!notice.read_at" class="sr-only">{{ $t('notices.new') }} </span
          >{{ notice.sentence }}</span
        >
        <RouterLink v-if="notice.link" :to="notice.link" @click="$emit('follow')"
          >{{ $t('common.open') }}<span class="sr-only"> {{ notice.sentence }}</span></RouterLink
        >
      </li>
    </ol>
  </AfterReading>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0.1rem 1rem;
  padding: 0.55rem 0.6rem;
  border-bottom: 1px solid var(--rule);
  border-left: 4px solid transparent;
}
time {
  grid-column: 1 / -1;
  font-size: 0.85rem;
}
li.fresh {
  border-left-color: var(--both);
  background: var(--both-wash);
}
</style>

<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { NBreadcrumb, NBreadcrumbItem } from 'naive-ui/es/breadcrumb'
import { computed, watchEffect } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { pairingQuery } from '@/steps/pair/queries'
import { t } from '@/words'
import { crumbsOf, titleOf } from './crumbs'

const route = useRoute()
const pairing = computed(() => String(route.params.pairing ?? ''))
const { data: about } = useQuery(
  computed(() => ({ ...pairingQuery(pairing.value), enabled: pairing.value !== '' })),
)
const crumbs = computed(() => crumbsOf(route, about.value?.shell.label))
watchEffect(() => (document.title = titleOf(route, crumbs.value)))
</script>

<template>
  <NBreadcrumb v-if="crumbs.length > 1" class="crumbs" :aria-label="t('frame.where')">
    <NBreadcrumbItem v-for="(crumb, place) in crumbs" :key="place" :clickable="false">
      <RouterLink v-if="crumb.to" :to="crumb.to">{{ crumb.label }}</RouterLink>
      <span v-else aria-current="page">{{ crumb.label }}</span>
    </NBreadcrumbItem>
  </NBreadcrumb>
</template>

<style scoped>
.crumbs {
  max-width: 76rem;
  margin: 0.6rem auto -0.6rem;
  padding: 0 1.2rem;
  font-size: 0.88rem;
}
.crumbs :deep(ul) {
  display: flex;
  flex-wrap: wrap;
}
/* The library keeps a crumb in one line, however long the name in it is. */
.crumbs :deep(li),
.crumbs :deep(li > span) {
  white-space: normal;
  max-width: 100%;
}
.crumbs a {
  color: var(--soft);
}
@media (max-width: 640px) {
  .crumbs {
    padding: 0 0.8rem;
  }
}
</style>

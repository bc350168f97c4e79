<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NDropdown } from 'naive-ui/es/dropdown'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { LANGUAGES, type Language, t } from '@/words'
import { density, type Density, type SchemeChoice, schemeChoice } from './preferences'
import { useProfile } from './useProfile'

defineProps<{ me: Schemas['Me'] }>()
const router = useRouter()
const { signOut, keepLanguage } = useProfile()
const tick = (on: boolean, label: string) => `${on ? '✓ ' : ' '}${label}`
const options = computed(() => [
  { key: 'access', label: t('profile.access') },
  { key: 'd1', type: 'divider' as const },
  {
    type: 'group' as const,
    key: 'colors',
    label: t('profile.colors'),
    children: (['device', 'light', 'dark'] as const).map((each) => ({
      key: `scheme:${each}`,
      label: tick(schemeChoice.value === each, t(`profile.${each}`)),
    })),
  },
  {
    type: 'group' as const,
    key: 'density',
    label: t('profile.density'),
    children: (['roomy', 'compact'] as const).map((each) => ({
      key: `density:${each}`,
      label: tick(density.value === each, t(`profile.${each}`)),
    })),
  },
  {
    type: 'group' as const,
    key: 'languages',
    label: t('profile.language'),
    children: Object.entries(LANGUAGES).map(([code, name]) => ({
      key: `language:${code}`,
      label: tick(document.documentElement.lang === code, name),
    })),
  },
  { key: 'd2', type: 'divider' as const },
  { key: 'out', label: t('profile.sign_out') },
])
async function choose(key: string) {
  const [what, value] = key.split(':')
  if (what === 'access') await router.push({ name: 'access' })
  else if (what === 'out') signOut.mutate()
  else if (what === 'scheme') schemeChoice.value = value as SchemeChoice
  else if (what === 'density') density.value = value as Density
  else if (what === 'language') keepLanguage.mutate(value as Language)
}
</script>

<template>
  <NDropdown
    trigger="click"
    keyboard
    :options="options"
    :menu-props="() => ({ role: 'menu' })"
    :node-props="() => ({ role: 'menuitem' })"
    @select="choose"
  >
    <NButton
      size="small"
      quaternary
      aria-haspopup="menu"
      :aria-label="$t('frame.profile', { name: me.name })"
      ><span class="who">{{ me.name }}</span></NButton
    >
  </NDropdown>
</template>

<style scoped>
.who {
  max-width: 10rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 480px) {
  .who {
    max-width: 4.2rem;
  }
}
</style>

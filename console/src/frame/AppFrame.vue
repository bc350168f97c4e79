<script setup lang="ts">
// Apart from App.vue, so that the component library is not in the entry.
import { useQuery } from '@tanstack/vue-query'
import { NAlert } from 'naive-ui/es/alert'
import { NConfigProvider } from 'naive-ui/es/config-provider'
import { NDialogProvider } from 'naive-ui/es/dialog'
import { NMessageProvider } from 'naive-ui/es/message'
import { watch } from 'vue'
import { RouterView, useRoute, useRouter } from 'vue-router'
import { Problem } from '@/api/client'
import { meQuery } from '@/steps/connect/queries'
import { dress, useTheme } from '@/theme'
import { languageOf, speak } from '@/words'
import CrumbTrail from './CrumbTrail.vue'
import FrameHeader from './FrameHeader.vue'
import LiveRegion from './LiveRegion.vue'
import UntoldNote from './UntoldNote.vue'
import { useLibraryWords } from './libraryWords'
import { chosenLanguage, follow } from './preferences'

follow(dress)
const { theme, overrides } = useTheme()
const { locale, dateLocale } = useLibraryWords()
const route = useRoute()
const router = useRouter()
const { data: me, error } = useQuery(meQuery())

watch(error, (now) => {
  if (now instanceof Problem && now.status === 401 && route.name !== 'sign-in')
    router.replace({ name: 'sign-in', query: { next: route.fullPath } })
})
// The person's own choice, else the language of the course from which they came.
watch(
  () => me.value?.language,
  (theirs) => theirs && !chosenLanguage.value && speak(languageOf([theirs])),
  { immediate: true },
)
</script>

<template>
  <NConfigProvider
    :theme="theme"
    :theme-overrides="overrides"
    :locale="locale"
    :date-locale="dateLocale"
    :inline-theme-disabled="true"
    preflight-style-disabled
  >
    <NMessageProvider placement="bottom-right">
      <NDialogProvider>
        <a class="skip" href="#main">{{ $t('frame.skip') }}</a>
        <FrameHeader :me="me" />
        <main id="main" tabindex="-1">
          <CrumbTrail />
          <div v-if="me?.on_hold" class="hold">
            <NAlert type="warning" :title="$t('frame.on_hold')">{{
              $t('frame.on_hold_means', { why: me.on_hold })
            }}</NAlert>
          </div>
          <UntoldNote />
          <RouterView />
        </main>
        <LiveRegion />
      </NDialogProvider>
    </NMessageProvider>
  </NConfigProvider>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 0.5rem;
  top: 0.5rem;
  background: var(--sheet);
  padding: 0.5rem 1rem;
  z-index: 10;
}
.hold {
  max-width: 76rem;
  margin: 0.8rem auto 0;
  padding: 0 1.2rem;
}
@media (max-width: 640px) {
  .hold {
    padding: 0 0.8rem;
  }
}
main:focus {
  outline: none;
}
</style>

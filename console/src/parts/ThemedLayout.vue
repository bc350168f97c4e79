<script setup lang="ts">
// Apart from App.vue, so that the component library is not in the entry.
import { NConfigProvider } from 'naive-ui/es/config-provider'
import { RouterView } from 'vue-router'
import { useTheme } from '@/theme'

const { theme, overrides } = useTheme()
</script>

<template>
  <NConfigProvider :theme="theme" :theme-overrides="overrides" :inline-theme-disabled="true"
    ><RouterView
  /></NConfigProvider>
</template>

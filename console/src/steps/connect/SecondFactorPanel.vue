<script setup lang="ts">
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { ref } from 'vue'
import { answered, api } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'

defineProps<{ on: boolean }>()
const client = useQueryClient()
const code = ref('')
const again = () => {
  code.value = ''
  client.invalidateQueries({ queryKey: ['me'] })
}
const begin = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/me/second-factor')),
})
const confirm = useMutation({
  mutationFn: () => answered(api.PUT('/api/v1/me/second-factor', { body: { code: code.value } })),
  onSuccess: again,
})
const off = useMutation({
  mutationFn: () =>
    answered(api.DELETE('/api/v1/me/second-factor', { body: { code: code.value } as never })),
  onSuccess: () => {
    begin.reset()
    confirm.reset()
    again()
  },
})
const picture = (svg: string) => `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`
</script>

<template>
  <form class="sheet" @submit.prevent="on ? off.mutate() : confirm.mutate()">
    <h2>A code beside the password</h2>
    <p class="soft">
      {{
        on
          ? 'Signing in with your password also needs a code of your authenticator app.'
          : 'With an authenticator app on your phone, a stolen password alone is worth nothing.'
      }}
    </p>
    <div v-if="confirm.data.value && on" class="recovery" role="status">
      <p>
        <strong>Keep these recovery codes.</strong> Each one works once instead of a code of the
        app. They are not shown again.
      </p>
      <ul>
        <li v-for="each in confirm.data.value.recovery" :key="each">
          <code>{{ each }}</code>
        </li>
      </ul>
    </div>
    <NButton
      v-if="!on && !begin.data.value"
      :loading="begin.isPending.value"
      @click="begin.mutate()"
      >Set it up</NButton
    >
    <template v-if="!on && begin.data.value">
      <p>Scan this with the app, or type the key. Then give the code that the app shows.</p>
      <img :src="picture(begin.data.value.picture)" alt="The key as a picture for the app" />
      <p>
        <code>{{ begin.data.value.key }}</code>
      </p>
    </template>
    <template v-if="on || begin.data.value">
      <label for="factor-code">Code</label>
      <NInput
        v-model:value="code"
        :input-props="{ id: 'factor-code', autocomplete: 'one-time-code' }"
        placeholder=""
      />
      <NButton
        :type="on ? 'default' : 'primary'"
        attr-type="submit"
        :disabled="code.trim().length < 6"
        :loading="confirm.isPending.value || off.isPending.value"
        >{{ on ? 'Turn it off' : 'Turn it on' }}</NButton
      >
    </template>
    <ProblemNote :error="begin.error.value ?? confirm.error.value ?? off.error.value" />
  </form>
</template>

<style scoped>
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
img {
  background: #fff;
  border-radius: 8px;
  padding: 0.4rem;
  width: 12rem;
  height: 12rem;
}
.recovery {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
}
.recovery ul {
  columns: 2;
  margin: 0.4rem 0;
}
form .n-button {
  margin-top: 0.9rem;
}
</style>

<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useSecondFactor } from './useSecondFactor'

const props = defineProps<{ on: boolean; app: boolean }>()
const { code, name, recovery, passkeys, begin, confirm, add, remove, off, error } = useSecondFactor(
  () => props.on,
)
const picture = (svg: string) => `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`
const used = (at?: string | null) =>
  at ? `last used on ${new Date(at).toLocaleDateString()}` : 'not used yet'
</script>

<template>
  <section class="sheet" aria-labelledby="second-step">
    <h2 id="second-step">A second step beside the password</h2>
    <p class="soft">
      {{
        on
          ? 'Signing in with your password also needs a code or a passkey.'
          : 'With an authenticator app or a passkey, a stolen password alone is worth nothing.'
      }}
    </p>
    <div v-if="recovery.length && on" class="recovery" role="status">
      <p>
        <strong>Keep these recovery codes.</strong> Each one works once instead of a code or a
        passkey. They are not shown again.
      </p>
      <ul>
        <li v-for="each in recovery" :key="each">
          <code>{{ each }}</code>
        </li>
      </ul>
    </div>
    <template v-if="on">
      <label for="factor-code">Code of your app, or a recovery code</label>
      <NInput
        v-model:value="code"
        :input-props="{ id: 'factor-code', autocomplete: 'one-time-code' }"
        placeholder=""
      />
      <p v-if="passkeys.data.value?.length" class="soft">
        Changes below need it. Leave it empty to use a passkey instead.
      </p>
      <p v-else class="soft">Changes below need it.</p>
    </template>

    <h3>Authenticator app</h3>
    <p v-if="app">Set up.</p>
    <NButton v-else-if="!begin.data.value" :loading="begin.isPending.value" @click="begin.mutate()"
      >Set up an app</NButton
    >
    <form v-if="!app && begin.data.value" @submit.prevent="confirm.mutate()">
      <p>Scan this with the app, or type the key. Then give the code that the app shows.</p>
      <img :src="picture(begin.data.value.picture)" alt="The key as a picture for the app" />
      <p>
        <code class="key">{{ begin.data.value.key }}</code>
      </p>
      <label for="first-code">Code that the app shows</label>
      <NInput
        v-model:value="code"
        :input-props="{ id: 'first-code', autocomplete: 'one-time-code' }"
        placeholder=""
      />
      <NButton
        type="primary"
        attr-type="submit"
        :disabled="code.trim().length < 6"
        :loading="confirm.isPending.value"
        >Turn it on</NButton
      >
    </form>

    <h3>Passkeys and security keys</h3>
    <ul v-if="passkeys.data.value?.length" class="keys">
      <li v-for="each in passkeys.data.value" :key="each.id" class="row">
        <span
          >{{ each.name }}<span class="soft">, {{ used(each.used_at) }}</span></span
        >
        <NButton
          class="push"
          size="small"
          :loading="remove.isPending.value && remove.variables.value === each.id"
          :aria-label="`Remove ${each.name}`"
          @click="remove.mutate(each.id)"
          >Remove</NButton
        >
      </li>
    </ul>
    <form @submit.prevent="add.mutate()">
      <label for="passkey-name">Name of a new one, for example the device</label>
      <NInput
        v-model:value="name"
        :input-props="{ id: 'passkey-name', maxlength: 80, autocomplete: 'off' }"
        placeholder=""
      />
      <NButton attr-type="submit" :disabled="!name.trim()" :loading="add.isPending.value"
        >Add a passkey</NButton
      >
    </form>
    <ProblemNote :error="error" />
    <p v-if="on" class="off">
      <NButton :loading="off.isPending.value" @click="off.mutate()"
        >Turn the second step off</NButton
      >
    </p>
  </section>
</template>

<style scoped>
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
h3 {
  margin: 1.2rem 0 0.4rem;
}
img {
  background: #fff;
  border-radius: 8px;
  padding: 0.4rem;
  width: 12rem;
  height: 12rem;
}
.key {
  overflow-wrap: anywhere;
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
.keys {
  list-style: none;
  padding: 0;
}
.keys li {
  margin: 0.3rem 0;
}
form .n-button,
.off .n-button {
  margin-top: 0.9rem;
}
</style>

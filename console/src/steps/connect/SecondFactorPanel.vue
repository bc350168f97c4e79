<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import ProblemNote from '@/parts/ProblemNote.vue'
import AuthenticatorForm from './AuthenticatorForm.vue'
import PasskeyList from './PasskeyList.vue'
import { useSecondFactor } from './useSecondFactor'

const props = defineProps<{ on: boolean; app: boolean }>()
const { code, name, recovery, passkeys, begin, confirm, add, remove, off, error } = useSecondFactor(
  () => props.on,
)
</script>

<template>
  <section class="sheet" aria-labelledby="second-step">
    <h2 id="second-step">{{ $t('connect.second_factor.a_second_step_beside_the') }}</h2>
    <p class="soft">
      {{
        on
          ? $t('connect.second_factor.signing_in_with_your_password')
          : $t('connect.second_factor.with_an_authenticator_app_or')
      }}
    </p>
    <div v-if="recovery.length && on" class="recovery" role="status">
      <p>
        <strong>{{ $t('connect.second_factor.keep_these_recovery_codes') }}</strong>
        {{ $t('connect.second_factor.each_one_works_once_instead') }}
      </p>
      <ul>
        <li v-for="each in recovery" :key="each">
          <code>{{ each }}</code>
        </li>
      </ul>
    </div>
    <template v-if="on">
      <label for="factor-code">{{ $t('connect.second_factor.code_of_your_app_or') }}</label>
      <NInput
        v-model:value="code"
        :input-props="{ id: 'factor-code', autocomplete: 'one-time-code' }"
        placeholder=""
      />
      <p v-if="passkeys.data.value?.length" class="soft">
        {{ $t('connect.second_factor.changes_below_need_it_leave') }}
      </p>
      <p v-else class="soft">{{ $t('connect.second_factor.changes_below_need_it') }}</p>
    </template>

    <AuthenticatorForm v-model="code" :app="app" :begin="begin" :confirm="confirm" />

    <PasskeyList
      v-model="name"
      :keys="passkeys.data.value ?? []"
      :adding="add.isPending.value"
      :removing="remove.isPending.value ? remove.variables.value : undefined"
      @add="add.mutate()"
      @remove="remove.mutate($event)"
    />
    <ProblemNote :error="error" />
    <p v-if="on" class="off">
      <NButton :loading="off.isPending.value" @click="off.mutate()">{{
        $t('connect.second_factor.turn_the_second_step_off')
      }}</NButton>
    </p>
  </section>
</template>

<style scoped>
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
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
section > .off .n-button {
  margin-top: 0.9rem;
}
</style>

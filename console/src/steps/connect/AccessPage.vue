<script setup lang="ts">
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import ProblemNote from '@/parts/ProblemNote.vue'
import SecondFactorPanel from './SecondFactorPanel.vue'
import TokensPanel from './TokensPanel.vue'
import { useAccess, type Wish } from './useAccess'

const { me, password, save, wish, signOut } = useAccess()
const service = window.location.origin
</script>

<template>
  <div v-if="me" class="page narrow">
    <h1>{{ me.name }}</h1>
    <p class="soft">
      {{ me.username }}, {{ me.institution
      }}<span v-if="me.administrator">{{ $t('connect.access.administrator') }}</span>
    </p>
    <form class="sheet" @submit.prevent="save.mutate()">
      <h2>{{ $t('connect.access.a_password_for_the_command') }}</h2>
      <p class="soft">
        {{
          $t('connect.access.at_least_ten_characters', {
            yet: me.has_password
              ? $t('connect.access.you_have_one_a_new')
              : $t('connect.access.you_have_none_yet'),
          })
        }}
      </p>
      <label for="new-password">{{ $t('connect.access.new_password') }}</label>
      <NInput
        v-model:value="password"
        type="password"
        :input-props="{ id: 'new-password', autocomplete: 'new-password' }"
        placeholder=""
      />
      <ProblemNote :error="save.error.value" />
      <p v-if="save.isSuccess.value" role="status">
        {{ $t('connect.access.set_sign_in_with') }}
        <code>{{
          $t('connect.access.vennpair_sign_in_service_user', { service, username: me.username })
        }}</code>
      </p>
      <NButton
        type="primary"
        attr-type="submit"
        :disabled="password.length < 10"
        :loading="save.isPending.value"
        >{{ $t('connect.access.set_password') }}</NButton
      >
    </form>
    <form class="sheet" @submit.prevent>
      <h2>{{ $t('connect.access.what_the_nights_comparisons_found') }}</h2>
      <p id="digest">{{ $t('connect.access.tell_me') }}</p>
      <ChooseOne
        :value="me.digest"
        @chosen="wish.mutate($event as Wish)"
        labelledby="digest"
        :options="[
          { value: 'daily', label: $t('connect.access.every_morning_on_which_something') },
          { value: 'weekly', label: $t('connect.access.on_mondays_where_something_is') },
          { value: 'never', label: $t('connect.access.never') },
        ]"
      />
      <p class="soft">{{ $t('connect.access.in_the_week_before_grades') }}</p>
      <ProblemNote :error="wish.error.value" />
    </form>
    <SecondFactorPanel
      v-if="me.has_password"
      class="below"
      :on="me.second_factor"
      :app="me.authenticator_app"
    />
    <TokensPanel class="below" />
    <p>
      <NButton @click="signOut.mutate()">{{ $t('connect.access.sign_out') }}</NButton>
    </p>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 36rem;
}
label {
  display: block;
  margin: 0.6rem 0 0.2rem;
}
form .n-button {
  margin-top: 0.9rem;
}
form,
.below {
  margin-bottom: 1rem;
}
</style>

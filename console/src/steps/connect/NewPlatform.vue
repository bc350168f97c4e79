<script setup lang="ts">
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import FieldForm from '@/parts/FieldForm.vue'
import type { Field } from '@/parts/fieldForm'
import ProblemNote from '@/parts/ProblemNote.vue'
import { platformFields } from './fields'
import { t } from '@/words'
import { useNewPlatform } from './useNewPlatform'

const { card, invite, register, add } = useNewPlatform()
const dynamicFields: readonly Field<Schemas['RegistrationRequest']>[] = [
  {
    name: 'openid_configuration',
    label: t('connect.new_platform.configuration_address'),
    help: t('connect.new_platform.the_platform_calls_it_openid'),
  },
  {
    name: 'registration_token',
    label: t('connect.new_platform.registration_token'),
    help: t('connect.new_platform.good_once_the_platform_shows'),
    optional: true,
  },
  {
    name: 'name',
    label: t('connect.new_platform.name'),
    help: t('connect.new_platform.what_your_people_call_the'),
    optional: true,
  },
]
</script>

<template>
  <MoreBelow sheet :title="$t('connect.new_platform.connect_a_course_platform')">
    <h4>{{ $t('connect.new_platform.1_by_a_link_two') }}</h4>
    <p>
      {{ $t('connect.new_platform.if_the_platform_registers_tools') }}
    </p>
    <NButton
      size="small"
      type="primary"
      :loading="invite.isPending.value"
      @click="invite.mutate()"
      >{{ $t('connect.new_platform.make_a_registration_link') }}</NButton
    >
    <ProblemNote :error="invite.error.value" />
    <dl v-if="invite.data.value">
      <CopyValue
        :label="$t('connect.new_platform.registration_link')"
        :value="invite.data.value.link"
        :help="$t('connect.new_platform.enter_it_at_the_platform')"
      />
    </dl>
    <h4>{{ $t('connect.new_platform.2_from_the_platforms_configuration') }}</h4>
    <FieldForm
      prefix="dynamic"
      :fields="dynamicFields"
      :action="$t('connect.new_platform.register')"
      :busy="register.isPending.value"
      :error="register.error.value"
      @save="register.mutate($event)"
    />
    <p v-if="register.data.value" role="status">
      <strong>{{
        $t('connect.new_platform.is_registered', { name: register.data.value.name })
      }}</strong>
      {{ $t('connect.new_platform.check_the_connection_above') }}
    </p>
    <h4>{{ $t('connect.new_platform.3_by_hand') }}</h4>
    <p>{{ $t('connect.new_platform.copy_our_values_into_the') }}</p>
    <dl>
      <CopyValue
        v-for="row in card"
        :key="row.name"
        :label="row.label"
        :value="row.value"
        :help="row.help"
      />
    </dl>
    <FieldForm
      prefix="by-hand"
      :fields="platformFields"
      :action="$t('connect.new_platform.save_the_platform')"
      :busy="add.isPending.value"
      :error="add.error.value"
      @save="add.mutate($event)"
    />
  </MoreBelow>
</template>

<style scoped>
h4 {
  margin: 1.1rem 0 0.3rem;
}
</style>

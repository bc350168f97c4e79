<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { answered, api, type Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import FieldForm from '@/parts/FieldForm.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { platformFields } from './fields'
import { toolCardQuery } from './queries'

const client = useQueryClient()
const { data: card } = useQuery(toolCardQuery())
const again = () => client.invalidateQueries({ queryKey: ['platforms'] })
const invite = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/connections/platforms/invite', { body: {} })),
})
const register = useMutation({
  mutationFn: (body: Schemas['RegistrationRequest']) =>
    answered(api.POST('/api/v1/connections/platforms/register', { body })),
  onSuccess: again,
})
const add = useMutation({
  mutationFn: (body: Schemas['NewPlatformRequest']) =>
    answered(api.POST('/api/v1/connections/platforms', { body })),
  onSuccess: again,
})
const dynamicFields = [
  {
    name: 'openid_configuration',
    label: 'Configuration address',
    help: 'The platform calls it openid_configuration.',
  },
  {
    name: 'registration_token',
    label: 'Registration token',
    help: 'Good once; the platform shows it beside the address.',
    optional: true,
  },
  { name: 'name', label: 'Name', help: 'What your people call the platform.', optional: true },
]
</script>

<template>
  <details class="sheet">
    <summary>Connect a course platform</summary>
    <h4>1. By a link (two minutes)</h4>
    <p>
      If the platform registers tools by an address, make a link here and enter it there. It is good
      once, for a week.
    </p>
    <NButton size="small" type="primary" :loading="invite.isPending.value" @click="invite.mutate()"
      >Make a registration link</NButton
    >
    <ProblemNote :error="invite.error.value" />
    <dl v-if="invite.data.value">
      <CopyValue
        label="Registration link"
        :value="invite.data.value.link"
        help="enter it at the platform"
      />
    </dl>
    <h4>2. From the platform's configuration address</h4>
    <FieldForm
      prefix="dynamic"
      :fields="dynamicFields"
      action="Register"
      :busy="register.isPending.value"
      :error="register.error.value"
      @save="register.mutate($event as never)"
    />
    <p v-if="register.data.value" role="status">
      <strong>{{ register.data.value.name }} is registered.</strong> Check the connection above.
    </p>
    <h4>3. By hand</h4>
    <p>Copy our values into the platform's form, and its values into ours.</p>
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
      action="Save the platform"
      :busy="add.isPending.value"
      :error="add.error.value"
      @save="add.mutate($event as never)"
    />
  </details>
</template>

<style scoped>
summary {
  font-weight: 650;
  cursor: pointer;
}
h4 {
  margin: 1.1rem 0 0.3rem;
}
</style>

<script setup lang="ts">
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'
import FieldForm from '@/parts/FieldForm.vue'
import type { Field } from '@/parts/fieldForm'
import { keyFields, onerosterFields, publisherName } from './fields'
import { t } from '@/words'
import { useNewPublisher } from './useNewPublisher'

const { again, invite, add, opened, open } = useNewPublisher()
const inviteFields: readonly Field<Schemas['InvitePublisherRequest']>[] = [
  {
    name: 'registration_url',
    label: t('connect.new_publisher.registration_address_of_the_publishe'),
    help: t('connect.new_publisher.its_support_or_documentation_names'),
  },
  { name: 'name', label: publisherName.label, help: publisherName.help, optional: true },
]
</script>

<template>
  <MoreBelow sheet :title="$t('connect.new_publisher.connect_a_publisher')">
    <h4>{{ $t('connect.new_publisher.1_let_it_register_itself') }}</h4>
    <FieldForm
      prefix="invite"
      :fields="inviteFields"
      :action="$t('connect.new_publisher.make_the_link')"
      :busy="invite.isPending.value"
      :error="invite.error.value"
      @save="invite.mutate($event)"
    />
    <div v-if="invite.data.value" class="ready">
      <p>
        {{ $t('connect.new_publisher.ready_the_publishers_page_opens') }}
      </p>
      <div class="row">
        <NButton size="small" type="primary" @click="open(invite.data.value.open)">{{
          $t('connect.new_publisher.open_the_publishers_page')
        }}</NButton><NButton size="small" @click="again()">{{
          $t('connect.new_publisher.it_has_registered_show_it')
        }}</NButton>
      </div>
      <p v-if="invite.data.value && opened" class="soft">
        {{ $t('connect.new_publisher.if_no_window_came_your') }}
      </p>
    </div>
    <h4>{{ $t('connect.new_publisher.2_by_hand_lti_1') }}</h4>
    <p>{{ $t('connect.new_publisher.say_its_name_first_our') }}</p>
    <FieldForm
      prefix="name"
      :fields="[publisherName]"
      :action="$t('connect.new_publisher.reserve_our_values_for_it')"
      :busy="add.isPending.value"
      :error="add.error.value"
      @save="add.mutate($event)"
    />
    <h4>{{ $t('connect.new_publisher.3_by_key_and_secret') }}</h4>
    <p>{{ $t('connect.new_publisher.only_where_the_publisher_has') }}</p>
    <FieldForm
      prefix="key"
      :fields="[publisherName, ...keyFields, ...onerosterFields]"
      :action="$t('connect.new_publisher.save_the_publisher')"
      :busy="add.isPending.value"
      :error="add.error.value"
      @save="add.mutate({ ...$event, speaks: 'lti11' })"
    />
  </MoreBelow>
</template>

<style scoped>
h4 {
  margin: 1.1rem 0 0.3rem;
}
.ready {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
  margin-top: 0.6rem;
}
</style>

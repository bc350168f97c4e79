import { t } from '@/words'
import type { Schemas } from '@/api/client'
import type { Field } from '@/parts/fieldForm'

type NewPlatform = Schemas['NewPlatformRequest']
type NewPublisher = Schemas['NewPublisherRequest']

export const platformFields: readonly Field<NewPlatform>[] = [
  {
    name: 'name',
    label: t('connect.fields.name'),
    help: t('connect.fields.what_your_people_call_it'),
  },
  {
    name: 'issuer',
    label: t('connect.fields.issuer'),
    help: t('connect.fields.who_signs_its_messages_some'),
  },
  {
    name: 'client_id',
    label: t('connect.fields.client_id'),
    help: t('connect.fields.under_which_it_knows_us'),
  },
  {
    name: 'deployment_ids',
    label: t('connect.fields.deployment_ids'),
    help: t('connect.fields.separated_by_commas_left_empty'),
    list: true,
    optional: true,
  },
  {
    name: 'authorization_url',
    label: t('connect.fields.authorisation_address'),
    help: t('connect.fields.where_we_ask_for_the'),
  },
  {
    name: 'token_url',
    label: t('connect.fields.token_address'),
    help: t('connect.fields.where_we_get_access_tokens'),
  },
  {
    name: 'jwks_url',
    label: t('connect.fields.key_set_address'),
    help: t('connect.fields.its_public_keys_also_jwks'),
  },
]

export const changePlatformFields = platformFields.filter(
  (field) => field.name !== 'issuer' && field.name !== 'client_id',
)

export const launchFields: readonly Field<NewPublisher>[] = [
  {
    name: 'login_url',
    label: t('connect.fields.login_address'),
    help: t('connect.fields.its_oidc_login_initiation_address'),
    optional: true,
  },
  {
    name: 'launch_url',
    label: t('connect.fields.launch_address'),
    help: t('connect.fields.where_launches_go_also_its'),
    optional: true,
  },
  {
    name: 'jwks_url',
    label: t('connect.fields.key_set_address'),
    help: t('connect.fields.its_public_keys_with_which'),
    optional: true,
  },
]

export const keyFields: readonly Field<NewPublisher>[] = [
  {
    name: 'launch_url',
    label: t('connect.fields.launch_address'),
    help: t('connect.fields.where_lti_1_1_launches'),
  },
  {
    name: 'key',
    label: t('connect.fields.key'),
    help: t('connect.fields.the_consumer_key_that_the'),
  },
  {
    name: 'shared_secret',
    label: t('connect.fields.shared_secret'),
    help: t('connect.fields.stored_encrypted_never_shown_again'),
    secret: true,
  },
]

export const onerosterFields: readonly Field<NewPublisher>[] = [
  {
    name: 'item_address',
    label: t('connect.fields.address_pattern_of_an_item'),
    help: t('connect.fields.opens_items_that_tell_no'),
    optional: true,
  },
  {
    name: 'oneroster_url',
    label: t('connect.fields.oneroster_address'),
    help: t('connect.fields.the_part_before_ims_oneroster'),
    optional: true,
  },
  {
    name: 'oneroster_token_url',
    label: t('connect.fields.oneroster_token_address'),
    help: t('connect.fields.where_we_get_its_access'),
    optional: true,
  },
  {
    name: 'oneroster_client_id',
    label: t('connect.fields.oneroster_client_id'),
    help: t('connect.fields.given_by_the_publisher'),
    optional: true,
  },
  {
    name: 'oneroster_secret',
    label: t('connect.fields.oneroster_secret'),
    help: t('connect.fields.stored_encrypted_never_shown_again'),
    secret: true,
  },
  {
    name: 'provisioning_url',
    label: t('connect.fields.course_provisioning_address'),
    help: t('connect.fields.where_the_publisher_lets_us'),
    optional: true,
  },
]

export const publisherName: Field<NewPublisher> = {
  name: 'name',
  label: t('connect.fields.name'),
  help: t('connect.fields.what_your_people_call_it'),
}

export const collegeFields: readonly Field<Schemas['SetCollegeSignInRequest']>[] = [
  {
    name: 'issuer',
    label: t('connect.fields.issuer'),
    help: t('connect.fields.the_address_under_which_the'),
  },
  {
    name: 'client_id',
    label: t('connect.fields.client_id'),
    help: t('connect.fields.under_which_the_provider_knows'),
  },
  {
    name: 'secret',
    label: t('connect.fields.client_secret'),
    help: t('connect.fields.kept_encrypted_and_never_shown'),
    secret: true,
  },
]

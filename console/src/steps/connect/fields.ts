import type { Field } from '@/parts/FieldForm.vue'

export const platformFields: readonly Field[] = [
  { name: 'name', label: 'Name', help: 'What your people call it.' },
  {
    name: 'issuer',
    label: 'Issuer',
    help: 'Who signs its messages; some platforms say platform id.',
  },
  { name: 'client_id', label: 'Client id', help: 'Under which it knows us.' },
  {
    name: 'deployment_ids',
    label: 'Deployment ids',
    help: 'Separated by commas. Left empty, the first launch tells.',
    list: true,
    optional: true,
  },
  {
    name: 'authorization_url',
    label: 'Authorisation address',
    help: 'Where we ask for the launch message; also OIDC authentication request address.',
  },
  {
    name: 'token_url',
    label: 'Token address',
    help: 'Where we get access tokens for its services.',
  },
  { name: 'jwks_url', label: 'Key set address', help: 'Its public keys; also JWKS address.' },
]

export const changePlatformFields = platformFields.filter(
  (field) => field.name !== 'issuer' && field.name !== 'client_id',
)

export const launchFields: readonly Field[] = [
  {
    name: 'login_url',
    label: 'Login address',
    help: 'Its OIDC login initiation address.',
    optional: true,
  },
  {
    name: 'launch_url',
    label: 'Launch address',
    help: 'Where launches go; also its redirect address.',
    optional: true,
  },
  {
    name: 'jwks_url',
    label: 'Key set address',
    help: 'Its public keys, with which it signs when it reports scores.',
    optional: true,
  },
]

export const keyFields: readonly Field[] = [
  { name: 'launch_url', label: 'Launch address', help: 'Where LTI 1.1 launches go.' },
  { name: 'key', label: 'Key', help: 'The consumer key that the publisher gave you.' },
  {
    name: 'shared_secret',
    label: 'Shared secret',
    help: 'Stored encrypted, never shown again. Empty: the stored one stays.',
    secret: true,
  },
]

export const onerosterFields: readonly Field[] = [
  {
    name: 'item_address',
    label: 'Address pattern of an item',
    help: 'Opens items that tell no address of their own: https://…/{line_item}. Empty: none.',
    optional: true,
  },
  {
    name: 'oneroster_url',
    label: 'OneRoster address',
    help: 'The part before /ims/oneroster.',
    optional: true,
  },
  {
    name: 'oneroster_token_url',
    label: 'OneRoster token address',
    help: 'Where we get its access tokens.',
    optional: true,
  },
  {
    name: 'oneroster_client_id',
    label: 'OneRoster client id',
    help: 'Given by the publisher.',
    optional: true,
  },
  {
    name: 'oneroster_secret',
    label: 'OneRoster secret',
    help: 'Stored encrypted, never shown again. Empty: the stored one stays.',
    secret: true,
  },
  {
    name: 'provisioning_url',
    label: 'Course provisioning address',
    help: 'Where the publisher lets us make and copy courses.',
    optional: true,
  },
]

export const publisherName: Field = {
  name: 'name',
  label: 'Name',
  help: 'What your people call it.',
}

export const collegeFields: readonly Field[] = [
  {
    name: 'issuer',
    label: 'Issuer',
    help: 'The address under which the provider describes itself.',
  },
  { name: 'client_id', label: 'Client id', help: 'Under which the provider knows Venn Pair.' },
  {
    name: 'secret',
    label: 'Client secret',
    help: 'Kept encrypted and never shown. Left empty, the one that is kept stays.',
    secret: true,
  },
]

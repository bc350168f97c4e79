/** One field of a form, by the name that its value has. */
export interface Field<Values extends object> {
  name: keyof Values & string
  label: string
  help: string
  /** Is never shown; left empty, what is there stays. */
  secret?: boolean
  /** Several values, separated by commas. */
  list?: boolean
  optional?: boolean
}

/** What is there already of a form's values: a secret is not told. */
export type Held<Values extends object> = { [name in keyof Values]?: unknown }

/** What each field shows before somebody types. */
export function textsOf<Values extends object>(
  fields: readonly Field<Values>[],
  held: Held<Values> | undefined,
): Record<string, string> {
  const text = (value: unknown) => (Array.isArray(value) ? value.join(', ') : String(value ?? ''))
  return Object.fromEntries(
    fields.map(({ name, secret }) => [name, secret ? '' : text(held?.[name])]),
  )
}

/** What was typed as values, and the names of the fields that are needed and empty. */
export function readForm<Values extends object>(
  fields: readonly Field<Values>[],
  given: Readonly<Record<string, string>>,
  held: Held<Values> | undefined,
): { values: Values; missing: string[] } {
  const values: Partial<Record<keyof Values, string | string[]>> = {}
  const missing: string[] = []
  for (const { name, secret, optional, list } of fields) {
    const text = (given[name] ?? '').trim()
    // A secret that is left empty stays as it is; so does anything optional that was never there.
    if (!text && !optional && !(secret && held)) missing.push(name)
    if (!text && (secret || (optional && !held?.[name]))) continue
    values[name] = list ? parts(text) : text
  }
  // Whole where nothing is missing: the fields are those of the type.
  return { values: values as Values, missing }
}

const parts = (text: string) =>
  text
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean)

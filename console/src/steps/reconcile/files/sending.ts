/** Files and fields as one form; the browser itself writes the content type. A form has no type of its own in the schema. */
export function asForm(fields: Record<string, string | File | readonly string[] | undefined>) {
  const form = new FormData()
  for (const [name, value] of Object.entries(fields)) {
    if (value instanceof File) form.append(name, value)
    else if (typeof value === 'string') form.append(name, value)
    else for (const each of value ?? []) form.append(name, each)
  }
  return { body: form as never, bodySerializer: (body: unknown) => body as never }
}

/** The errors that a layout may mend: the table is there, but not in a form that is known without one. */
export const MENDED_BY_LAYOUT = [
  'missing_header',
  'separator',
  'encoding',
  'bad_score',
  'bad_points',
  'short_row',
]

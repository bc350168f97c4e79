import { answered, api, type Schemas } from '@/api/client'

/** Send a file in parts; one that broke off goes on where it was. */
export async function sendPackage(
  pairing: string,
  file: File,
  progress: (share: number) => void,
): Promise<Schemas['Package']> {
  const path = { pairing_pk: pairing }
  const fingerprint = `${file.name}:${file.size}:${file.lastModified}`
  let sent = await answered(
    api.POST('/api/v1/pairings/{pairing_pk}/packages', {
      params: { path },
      body: { filename: file.name, size: file.size, fingerprint },
    }),
  )
  const there = new Set(sent.received)
  const count = Math.ceil(file.size / sent.part_bytes)
  for (let number = 0; number < count; number++) {
    if (!there.has(number)) {
      const part = file.slice(number * sent.part_bytes, (number + 1) * sent.part_bytes)
      sent = await answered(
        api.PUT('/api/v1/pairings/{pairing_pk}/packages/{id}/parts/{number}', {
          params: { path: { ...path, id: sent.id, number } },
          // The schema calls bytes a string; a Blob goes out as it is.
          body: part as unknown as string,
          bodySerializer: (body: unknown) => body as Blob,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      )
    }
    progress((number + 1) / count)
  }
  return sent
}

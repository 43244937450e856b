/** What a file may be that becomes a picture on a screen; the server says so, too. */
export const accepted = ['image/png', 'image/jpeg', 'image/webp', 'image/gif']

const kept = /^\/pictures\/[a-z0-9-]*-([0-9a-f]{16})\.(?:png|jpg)$/

/** Where a page of Ubiquant itself finds what an address names: a picture that the workspace
 * keeps, or one that is written out. Nothing for any other address. */
export function pictureAt(address: unknown): string | undefined {
  if (typeof address !== 'string') return undefined
  if (address.startsWith('data:image/')) return address
  const id = kept.exec(address)?.[1]
  return id && `/api/pictures/${id}/file`
}

/** A file's bytes, in base64. */
export function base64(file: Blob): Promise<string> {
  return new Promise((done, fail) => {
    const r = new FileReader()
    r.onload = () => done((r.result as string).split(',')[1] ?? '')
    r.onerror = () => fail(new Error('the file cannot be read'))
    r.readAsDataURL(file)
  })
}

/** How much a file takes, in words. */
export const size = (bytes: number) =>
  bytes < 1_000_000
    ? `${Math.max(1, Math.round(bytes / 1000))} kB`
    : `${(bytes / 1e6).toFixed(1)} MB`

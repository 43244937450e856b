/** What an id is made of a title: its letters without their marks, digits, dashes between. */
export const slug = (title: string, most = 48): string =>
  title
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, most)

/** An id made of a title that nothing has yet. */
export function freeSlug(title: string, otherwise: string, taken: Iterable<string>, most = 48) {
  const all = new Set(taken)
  const base = slug(title, most) || otherwise
  let id = base
  for (let n = 2; all.has(id); n++) id = `${base}-${n}`
  return id
}

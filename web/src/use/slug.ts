/** What an id is made of a title: its letters without their marks, digits, dashes between. */
export const slug = (title: string, most = 48): string =>
  title
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, most)

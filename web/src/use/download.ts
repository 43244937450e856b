/** Hands a file to the person, under a name. */
export function download(name: string, content: Blob | string, type = 'text/plain') {
  const a = document.createElement('a')
  a.href = URL.createObjectURL(
    typeof content === 'string' ? new Blob([content], { type }) : content,
  )
  a.download = name
  a.click()
  URL.revokeObjectURL(a.href)
}

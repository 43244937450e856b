/**
 * Sheets as they were written for the third version: what is called otherwise since, and looked
 * otherwise where nothing was said, is said here (the list of what changed, "Upgrade guide", v4).
 */
const theme = `
@layer theme, base, components, utilities;
@import "tailwindcss/theme.css" layer(theme);
@import "tailwindcss/preflight.css" layer(base);
@theme {
  --shadow-sm: 0 1px 2px 0 rgb(0 0 0 / 0.05);
  --shadow: 0 1px 3px 0 rgb(0 0 0 / 0.1), 0 1px 2px -1px rgb(0 0 0 / 0.1);
  --drop-shadow-sm: 0 1px 1px rgb(0 0 0 / 0.05);
  --blur-sm: 4px;
  --radius-sm: 0.125rem;
  --default-ring-width: 3px;
  --default-ring-color: var(--color-blue-500);
}
@layer base {
  *, ::after, ::before, ::backdrop, ::file-selector-button {
    border-color: var(--color-gray-200, currentcolor);
  }
  button:not(:disabled), [role="button"]:not(:disabled) { cursor: pointer; }
}
`

const parts: Record<string, string> = {
  base: theme,
  components: '',
  utilities: '@tailwind utilities;',
  screens: '',
  variants: '',
}

/** Writes a sheet of the third version as one of the fourth. */
export const before = (text: string): string =>
  text.replace(
    /@tailwind\s+(base|components|utilities|screens|variants)\s*;/g,
    (_, part: string) => parts[part],
  )

import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import hooks from 'eslint-plugin-react-hooks'
import refresh from 'eslint-plugin-react-refresh'
import globals from 'globals'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  hooks.configs.flat.recommended,
  refresh.configs.vite,
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { globals: globals.browser },
    rules: { 'no-undef': 'off' },
  },
  prettier,
)

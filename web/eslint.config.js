// Run from the root of the repository, for the front end, the kit and the scripts beside them.
import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import a11y from 'eslint-plugin-vuejs-accessibility'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

export default [
  {
    ignores: ['**/node_modules/**', '**/dist*/**', '**/.next/**', '**/*.gen.ts', '**/*.d.ts'],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  ...a11y.configs['flat/recommended'],
  prettier,
  {
    languageOptions: {
      globals: { ...globals.browser, ...globals.node },
      parserOptions: { parser: ts.parser },
    },
    rules: {
      'no-undef': 'off', // TypeScript knows
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_$' },
      ],
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true }],
      'vue/require-default-prop': 'off', // types say what is optional
      // Trees, lists and grids hold the focus themselves and name the active part
      // (aria-activedescendant); their lines take no focus and no keys of their own.
      'vuejs-accessibility/click-events-have-key-events': 'off',
      'vuejs-accessibility/interactive-supports-focus': 'off',
      'vuejs-accessibility/no-static-element-interactions': 'off',
      // In a dialog the first field takes the focus.
      'vuejs-accessibility/no-autofocus': 'off',
      'vuejs-accessibility/label-has-for': ['error', { required: { some: ['nesting', 'id'] } }],
    },
  },
]

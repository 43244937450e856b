import js from '@eslint/js'
import angular from 'angular-eslint'
import prettier from 'eslint-config-prettier'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist', '.angular'] },
  {
    files: ['**/*.ts'],
    extends: [js.configs.recommended, ...ts.configs.recommended, ...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      'no-undef': 'off',
      '@angular-eslint/component-selector': [
        'error',
        { type: 'element', prefix: 'app', style: 'kebab-case' },
      ],
    },
  },
  {
    files: ['**/*.html'],
    ignores: ['src/index.html'],
    extends: [...angular.configs.templateRecommended],
  },
  prettier,
)

import i18n from '@intlify/eslint-plugin-vue-i18n'
import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/essential'],
  ...i18n.configs.base,
  {
    files: ['src/**/*.{ts,vue}'],
    languageOptions: { globals: globals.browser, parserOptions: { parser: ts.parser } },
    settings: { 'vue-i18n': { localeDir: './src/words/*.json', messageSyntaxVersion: '^11.0.0' } },
    rules: {
      'vue/multi-word-component-names': 'off',
      '@intlify/vue-i18n/no-missing-keys': 'error',
      '@intlify/vue-i18n/no-raw-text': [
        'error',
        {
          // Marks, units and our own name say the same in every language.
          ignorePattern: '^[^\\p{L}]*$',
          ignoreText: ['Venn Pair', 'Ctrl K'],
          attributes: {
            '/.+/': ['title', 'aria-label', 'aria-description', 'placeholder', 'alt', 'label'],
          },
        },
      ],
    },
  },
  {
    files: ['src/**/*.vue'],
    rules: {
      // A page shows; what it may do, and the rules of that, are a composable's.
      'max-lines': ['error', 150],
      'no-restricted-imports': [
        'error',
        {
          paths: [
            {
              name: '@tanstack/vue-query',
              importNames: ['useMutation'],
              message: 'What changes something belongs into a composable beside the component.',
            },
          ],
        },
      ],
    },
  },
  prettier,
)

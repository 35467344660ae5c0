// eslint's recommended set, for the client's modules and the browser's tests.
import js from '@eslint/js'
import globals from 'globals'

export default [
  js.configs.recommended,
  { languageOptions: { globals: { ...globals.browser, ...globals.node, ...globals.serviceworker } } },
  { rules: { 'no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }] } },
]

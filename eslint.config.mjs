import js from '@eslint/js'
import tseslint from 'typescript-eslint'
import hooks from 'eslint-plugin-react-hooks'

// What differs between JavaScript engines, or needs a platform, has no place in core (docs/architecture.md).
const inexactMath = [
  'sin',
  'cos',
  'tan',
  'asin',
  'acos',
  'atan',
  'atan2',
  'sinh',
  'cosh',
  'tanh',
  'asinh',
  'acosh',
  'atanh',
  'exp',
  'expm1',
  'log',
  'log2',
  'log10',
  'log1p',
  'pow',
  'cbrt',
  'hypot',
  'random',
]
const platform = [
  'window',
  'document',
  'navigator',
  'process',
  'performance',
  'setTimeout',
  'setInterval',
  'fetch',
  'console',
  'Date',
  'Intl',
  'localStorage',
  'crypto',
  'Buffer',
  'require',
]

export default tseslint.config(
  { ignores: ['**/node_modules/**', '**/dist/**', 'build/**', '.local/**'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', caughtErrors: 'none' }],
      '@typescript-eslint/no-dynamic-delete': 'off',
      '@typescript-eslint/no-invalid-void-type': 'off',
      'no-restricted-syntax': ['error', { selector: 'ExportAllDeclaration', message: 'The public face is a hand-written list.' }],
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        performance: 'readonly',
      },
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.test.tsx', 'packages/core/src/testing/**'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...inexactMath.map((property) => ({ object: 'Math', property, message: 'Not the same in every engine: use base/.' })),
      ],
      'no-restricted-globals': ['error', ...platform.map((name) => ({ name, message: 'Core has no platform: pass it in.' }))],
      'no-restricted-syntax': [
        'error',
        { selector: 'ExportAllDeclaration', message: 'The public face is a hand-written list.' },
        { selector: "BinaryExpression[operator='**']", message: 'Not the same in every engine: use base/.' },
        { selector: 'CallExpression[callee.property.name=/^(toLocale\\w*|localeCompare)$/]', message: 'Depends on the locale.' },
      ],
    },
  },
  { files: ['packages/web/src/**/*.{ts,tsx}'], plugins: { 'react-hooks': hooks }, rules: hooks.configs.recommended.rules },
)

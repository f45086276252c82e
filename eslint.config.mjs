// Few rules: what the formatter and the type checker don't see.

export default [
  { ignores: ['**/lib/**', '**/bin/**', '**/obj/**', 'out/**', 'data/**'] },
  {
    files: ['**/*.js'],
    languageOptions: { ecmaVersion: 2023, sourceType: 'module' },
    linterOptions: { reportUnusedDisableDirectives: 'error' },
    rules: {
      eqeqeq: 'error',
      'max-len': ['error', { code: 140, ignoreRegExpLiterals: true }],
      'no-const-assign': 'error',
      'no-dupe-keys': 'error',
      'no-empty': 'error',
      'no-eval': 'error',
      'no-fallthrough': 'error',
      'no-unreachable': 'error',
      'no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-var': 'error',
      'prefer-const': 'error',
    },
  },
]

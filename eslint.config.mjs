import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['.next/', 'dist/', 'node_modules/', 'demo/data/', 'next-env.d.ts'] },
  ...ts.configs.recommended,
  {
    files: ['src/**/*.{ts,tsx}', 'demo/**/*.ts', 'e2e/**/*.ts', 'bench/**/*.ts'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'no-console': ['error', { allow: ['error'] }],
      eqeqeq: 'error',
      'max-len': [
        'error',
        { code: 120, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreUrls: true },
      ],
      'max-params': ['error', { max: 4 }],
      'no-nested-ternary': 'error',
      'prefer-const': 'error',
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    files: ['src/ui/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  { files: ['src/cli/**', 'demo/**', 'bench/**', 'scripts/**'], rules: { 'no-console': 'off' } },
)

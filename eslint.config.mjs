import { defineConfig, globalIgnores } from 'eslint/config';
import next from 'eslint-config-next/core-web-vitals';
import ts from 'eslint-config-next/typescript';

export default defineConfig([
  ...next,
  ...ts,
  globalIgnores(['.next/**', 'dist/**', '.typica/**', 'next-env.d.ts', 'coverage/**']),
  {
    rules: {
      // Pictures are made by our own API at the size that is shown.
      '@next/next/no-img-element': 'off',
      // It warns that the React Compiler passes a component over; the compiler is not used here.
      'react-hooks/incompatible-library': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
]);

import { defineConfig, globalIgnores } from 'eslint/config';
import next from 'eslint-config-next/core-web-vitals';
import ts from 'eslint-config-next/typescript';
import * as regexp from 'eslint-plugin-regexp';
import ownMembers from './eslint/own-members.mjs';

/** Where strangers' strings come as far as. */
const STRANGERS = [
  'src/core/**/*.ts',
  'src/server/**/*.ts',
  'src/app/**/*.{ts,tsx}',
  'src/adapters/**/*.ts',
  'src/bench/**/*.ts',
  'src/screens/**/*.{ts,tsx}',
  'src/ui/**/*.{ts,tsx}',
];

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
  {
    // A function that takes a screen to read is two functions.
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts'],
    rules: { 'max-lines-per-function': ['error', { max: 80 }] },
  },
  {
    // What is asked of the database is written in its own rooms.
    files: ['src/screens/**/*.{ts,tsx}', 'src/app/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[value=/^\\s*SELECT /]', 'TemplateElement[value.raw=/^\\s*SELECT /]'].map((selector) => ({
          selector,
          message: 'SQL stands in src/server.',
        })),
      ],
    },
  },
  {
    // No expression over strangers' text may take more than linear time.
    files: ['src/**/*.{ts,tsx}'],
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential', ignoreSticky: true }],
    },
  },
  {
    files: STRANGERS,
    ignores: ['**/*.test.ts', 'src/core/own-entry.ts'],
    plugins: { typica: { rules: { 'own-members': ownMembers } } },
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: { 'typica/own-members': 'error' },
  },
]);

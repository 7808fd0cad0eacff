import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

/**
 * Which folder of core may know which. support, maths ← item, pictures, geometry, game ← operations ← steps, rules ← worklist, pack,
 * inspect ← crate. `trial` stands apart: it knows the game and nothing else of ours. What is on top may ask it.
 */
const mayKnow = {
  support: [],
  maths: ['support'],
  item: ['support', 'maths'],
  pictures: ['support'],
  geometry: ['support', 'maths', 'item'],
  game: ['support', 'maths', 'item'],
  intake: ['support', 'maths', 'item', 'geometry', 'pictures'],
  operations: ['support', 'maths', 'item', 'geometry', 'pictures', 'game'],
  steps: ['support', 'maths', 'item', 'geometry', 'pictures', 'game', 'operations'],
  rules: ['support', 'maths', 'item', 'geometry', 'pictures', 'game', 'operations'],
  worklist: ['support', 'item', 'game', 'operations', 'steps'],
  pack: ['support', 'maths', 'item', 'geometry', 'pictures', 'intake', 'game', 'operations'],
  inspect: ['support', 'maths', 'item', 'pictures', 'game', 'rules', 'pack'],
  crate: [
    'support',
    'maths',
    'item',
    'geometry',
    'intake',
    'game',
    'operations',
    'steps',
    'worklist',
    'rules',
    'pack',
    'inspect',
    'trial',
  ],
  trial: ['game'],
}
const folders = Object.keys(mayKnow)

const forbid = (patterns) => ({ 'no-restricted-imports': ['error', { patterns }] })

const directions = folders.map((folder) => ({
  files: [`core/${folder}/**/*.ts`],
  ignores: ['**/*.test.ts'],
  rules: forbid([
    {
      regex: `^(?:\\.\\./)+(?:${folders.filter((other) => other !== folder && !mayKnow[folder].includes(other)).join('|')})/`,
      message: `core/${folder} must not know that folder (see eslint.config.js).`,
    },
    { regex: '(^|/)(app|cli|demo|e2e)/', message: 'core knows nothing of what is built on it.' },
    {
      group: ['react', 'react-*', 'idb', 'comlink', '@react-three/*', 'node:*', 'zustand'],
      message: 'core has no interface, storage or Node code.',
    },
  ]),
}))

const domGlobals = [
  'window',
  'document',
  'navigator',
  'localStorage',
  'indexedDB',
  'HTMLElement',
  'Worker',
  'self',
  'fetch',
  'OffscreenCanvas',
  'Image',
  'process',
  'Buffer',
]

export default tseslint.config(
  {
    ignores: ['build/', '.react-router/', 'node_modules/', 'public/', 'test-results/', 'playwright-report/', '.cache/'],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { prefer: 'type-imports' }],
      'no-warning-comments': ['error', { terms: ['todo', 'fixme', 'xxx'], location: 'anywhere' }],
      eqeqeq: 'error',
      'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/test-support/**'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...domGlobals.map((name) => ({
          name,
          message: 'core runs in workers, in Node and in tests: it has no DOM and no Node.',
        })),
      ],
    },
  },
  ...directions,
  {
    files: ['cli/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: forbid([{ regex: '(^|/)app/', message: 'the command line knows core only.' }]),
  },
  {
    files: ['app/**/*.{ts,tsx}'],
    ignores: ['app/storage/**', '**/*.test.ts'],
    plugins: { 'react-hooks': hooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      ...forbid([
        { group: ['idb'], message: 'only app/storage touches IndexedDB.' },
        { regex: '(^|/)cli/', message: 'the interface knows core only.' },
      ]),
    },
  },
  {
    // The first page must not load computation: only workers import steps, rules and the like.
    files: ['app/**/*.{ts,tsx}'],
    ignores: ['app/workers/**', 'app/storage/**', '**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['idb'], message: 'only app/storage touches IndexedDB.' },
            {
              regex: 'core/(geometry|pictures|intake|pack|operations)/',
              allowTypeImports: true,
              message: 'computation runs in workers.',
            },
            {
              regex: 'core/(steps|rules)/(?!step$|rule$)',
              allowTypeImports: true,
              message: 'computation runs in workers.',
            },
          ],
        },
      ],
    },
  },
)

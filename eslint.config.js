import hooks from 'eslint-plugin-react-hooks'
import { readdirSync, readFileSync } from 'node:fs'
import tseslint from 'typescript-eslint'

/**
 * Which folder of core may know which. support, maths ← item, pictures, geometry, game ← operations ← steps, rules ←
 * worklist, pack, inspect ← crate. `trial` stands apart: it knows the game and nothing else of ours. What is on top may
 * ask it.
 */
const mayKnow = {
  support: [],
  maths: ['support'],
  item: ['support', 'maths'],
  pictures: ['support', 'maths'],
  geometry: ['support', 'maths', 'item'],
  game: ['support', 'maths', 'item'],
  intake: ['support', 'maths', 'item', 'geometry', 'pictures'],
  operations: ['support', 'maths', 'item', 'geometry', 'pictures', 'game'],
  steps: ['support', 'maths', 'item', 'geometry', 'pictures', 'game', 'operations'],
  rules: ['support', 'maths', 'item', 'geometry', 'pictures', 'game', 'operations'],
  worklist: ['support', 'item', 'pictures', 'game', 'operations', 'steps'],
  pack: ['support', 'maths', 'item', 'geometry', 'pictures', 'intake', 'game', 'operations'],
  inspect: ['support', 'maths', 'item', 'pictures', 'game', 'operations', 'rules', 'pack'],
  learn: ['support', 'maths', 'item', 'geometry', 'pictures', 'game', 'pack'],
  questions: ['support', 'maths', 'item', 'game', 'intake'],
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
    'questions',
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
  ignores: ['**/*.test.ts', '**/*.test.tsx'],
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

/**
 * The same for the folders of app: storage ← workers ← drawing ← queries ← crate ← yard ← the desks of the stages ← bench, and
 * the other screens ← routes.
 */
const appMayKnow = {
  storage: [],
  workers: ['storage'],
  ui: [],
  drawing: ['workers'],
  queries: ['storage', 'workers', 'ui', 'drawing'],
  crate: ['storage', 'workers', 'ui', 'queries'],
  yard: ['workers', 'ui', 'queries', 'drawing'],
  intake: ['workers', 'ui', 'queries', 'crate', 'yard', 'drawing'],
  prepared: ['storage', 'workers', 'ui', 'queries', 'crate', 'yard', 'drawing', 'intake'],
  surface: ['workers', 'ui', 'queries', 'crate', 'yard'],
  solids: ['workers', 'ui', 'queries', 'crate', 'yard'],
  bench: ['workers', 'ui', 'queries', 'crate', 'yard', 'intake', 'surface', 'solids', 'prepared'],
  entry: ['workers', 'ui', 'queries', 'crate'],
  paths: ['workers', 'ui', 'queries', 'crate'],
  fleet: ['workers', 'ui', 'queries', 'crate'],
  overview: ['storage', 'workers', 'ui', 'queries', 'crate', 'fleet'],
  pack: ['storage', 'workers', 'ui', 'queries', 'crate'],
  trial: ['workers', 'ui', 'queries', 'crate', 'yard'],
  rulebooks: ['storage', 'workers', 'ui', 'queries', 'crate'],
  search: ['workers', 'ui', 'queries', 'crate', 'yard'],
  shelf: ['storage', 'workers', 'ui', 'queries', 'crate'],
}
const appFolders = [...Object.keys(appMayKnow), 'routes']

/** The first page must not load computation: only workers import steps, rules and the like. */
const inWorkersAlone = [
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
]

const appDirections = [...Object.entries(appMayKnow), ['routes', Object.keys(appMayKnow)]].map(([folder, known]) => ({
  files: [`app/${folder}/**/*.{ts,tsx}`],
  ignores: ['**/*.test.ts', '**/*.test.tsx'],
  rules: forbid([
    { regex: '(^|/)cli/', message: 'the interface knows core only.' },
    ...(folder === 'workers' || folder === 'storage' ? [] : inWorkersAlone),
    ...(folder === 'storage' ? [] : [{ group: ['idb'], message: 'only app/storage touches IndexedDB.' }]),
    {
      regex: `^(?:\\.\\./)+(?:${appFolders.filter((other) => other !== folder && !known.includes(other)).join('|') || '(?!)'})/`,
      message: `app/${folder} must not know that folder (see eslint.config.js).`,
    },
  ]),
}))

/**
 * Words of the built-in games: names and endings of roles, flags, surfaces, shadings, layers, markers and kinds. What
 * one game demands is data, so that none of them stands in code; the few that are terms of our own as well are listed
 * with what they mean here.
 */
const ownTerms = {
  colour: 'what a picture of any source shows; a meaning of values',
  normal: 'the same, for relief; and an attribute of a corner',
  cut: 'opacity that is either clear or not',
  flat: 'how far a pick grows',
  ground: 'where a body of the yard moves',
  plain: 'the name of the first look; names without a tag',
  reach: 'how far something is looked for',
}
const gamesFolder = new URL('./core/game/games/', import.meta.url)
const gameWords = new Set(
  readdirSync(gamesFolder, { withFileTypes: true })
    .filter((entry) => entry.isDirectory())
    .map(({ name }) => JSON.parse(readFileSync(new URL(`${name}/rulebook.json`, gamesFolder), 'utf8')))
    .flatMap(({ id, maps, materials, solids, markers, kinds }) => [
      id,
      ...maps.roles.flatMap(({ role, ending }) => [role, ending]),
      ...[materials.flags, materials.surfaces, materials.shadingModels, solids.layers, markers]
        .flat()
        .map(({ name }) => name),
      ...kinds.flatMap((kind) => [kind.id, kind.category]),
    ])
    .filter((word) => !Object.hasOwn(ownTerms, word)),
)
const noGameWords = {
  meta: {
    type: 'problem',
    schema: [],
    messages: { word: '“{{word}}” is a built-in game’s word: ask the rulebook for what is meant.' },
  },
  create: (context) => {
    const check = (node, word) => gameWords.has(word) && context.report({ node, messageId: 'word', data: { word } })
    return {
      Literal: (node) => typeof node.value === 'string' && check(node, node.value),
      TemplateElement: (node) => check(node, node.value.cooked),
    }
  },
}

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
    ignores: ['**/*.test.ts', '**/*.test.tsx', 'core/test-support/**', 'app/test-support/**'],
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
  ...appDirections,
  {
    files: ['core/**/*.ts', 'app/**/*.{ts,tsx}', 'cli/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.test.tsx', 'core/test-support/**', 'app/test-support/**', 'core/game/games/**'],
    plugins: { games: { rules: { 'no-game-words': noGameWords } } },
    rules: { 'games/no-game-words': 'error' },
  },
  {
    files: ['cli/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.test.tsx'],
    rules: forbid([{ regex: '(^|/)app/', message: 'the command line knows core only.' }]),
  },
  {
    files: ['app/**/*.{ts,tsx}'],
    ignores: ['app/storage/**', '**/*.test.ts', '**/*.test.tsx'],
    plugins: { 'react-hooks': hooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
    },
  },
)

import { index, layout, route, type RouteConfig } from '@react-router/dev/routes'

export default [
  index('routes/shelf.tsx'),
  route('crate/:crateId', 'routes/crate.tsx', [
    index('routes/overview.tsx'),
    route('item/:itemId', 'routes/bench.tsx'),
    route('item/:itemId/entry', 'routes/entry.tsx'),
    route('paths', 'routes/paths.tsx'),
    route('pack', 'routes/pack.tsx'),
    route('trial', 'routes/trial.tsx'),
    route('rulebook', 'routes/crate-rulebook.tsx'),
  ]),
  layout('routes/plain-page.tsx', [
    route('rulebooks', 'routes/rulebooks.tsx'),
    route('rulebooks/learn', 'routes/rulebook-learn.tsx'),
    route('rulebooks/:rulebookId', 'routes/rulebook.tsx'),
    route('rulebooks/:rulebookId/edit', 'routes/rulebook-edit.tsx'),
    route('licences', 'routes/licences.tsx'),
  ]),
] satisfies RouteConfig

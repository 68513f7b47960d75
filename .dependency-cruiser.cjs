/** Imports go one way: app -> services, contracts, client, ui; ui -> contracts, core; engine -> services, core, net, store, contracts; services -> store, contracts, core; client -> contracts; net, store, contracts -> core; core -> small pure libraries. */
const only = (name, from, allowed, comment) => ({
  name,
  comment,
  severity: 'error',
  from: { path: from },
  to: { path: '^(src|standins|bench|e2e|scripts)/', pathNot: allowed },
});

module.exports = {
  forbidden: [
    only('core-is-pure', '^src/core/', '^src/core/', 'core imports nothing of ours but core'),
    only('net-knows-core', '^src/net/', '^src/(net|core)/', 'net imports core only'),
    only('store-knows-core', '^src/store/', '^src/(store|core)/', 'store imports core only'),
    only('contracts', '^src/contracts/', '^src/(contracts|core)/', 'contracts import core only'),
    only(
      'services',
      '^src/services/',
      '^src/(services|store|contracts|core)/',
      'services import store, contracts and core; what they need of the engine they are given',
    ),
    only('client', '^src/client/', '^src/(client|contracts|core)/', 'the client imports contracts and core'),
    only(
      'engine',
      '^src/engine/(?!server\\.test\\.ts)',
      '^src/(engine|core|net|store|contracts|services)/',
      'engine imports core, net, store, contracts and services',
    ),
    only('ui', '^src/ui/', '^src/(ui|core|contracts)/', 'ui imports core and contracts'),
    only(
      'app',
      '^src/(app/|proxy|instrumentation)',
      '^src/(app|ui|core|contracts|services|store|client|proxy)',
      'app imports ui, core, contracts, services, store and the client',
    ),
    only('standins', '^standins/', '^standins/', 'the outside world knows nothing of the product'),
    {
      name: 'no-standins-in-src',
      severity: 'error',
      from: { path: '^src/' },
      to: { path: '^(standins|bench|e2e|scripts)/' },
    },
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-needs-no-io',
      comment: 'core has no I/O, no clock, no framework, no database',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^(node:)?(fs|net|http|https|dns|dgram|child_process|worker_threads|timers|os)|node_modules/(next|react|knex|better-sqlite3|undici|pino)/',
      },
    },
    {
      name: 'sql-only-in-named-files',
      comment: 'queries are built with Knex; hand-written SQL stands in files that say so and why',
      severity: 'error',
      from: { path: '^src/', pathNot: ['^src/store/base/', '\\.sql\\.ts$', '\\.test\\.ts$'] },
      to: { path: '^src/store/base/statement\\.ts$' },
    },
    {
      name: 'sql-only-in-store',
      severity: 'error',
      from: { path: '^src/', pathNot: ['^src/store/', '\\.test\\.ts$'] },
      to: { path: 'node_modules/(knex|better-sqlite3)/' },
    },
    {
      name: 'resolvable',
      severity: 'error',
      from: { path: '^(src|standins|bench|e2e)/' },
      to: { couldNotResolve: true, pathNot: '\\.css$' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.json', '.css'],
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default', 'types'],
    },
  },
};

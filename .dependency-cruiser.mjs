/** Imports go one way: units ← problems ← smf ← song/timing ← operations ← handoff ← {server, web, tools}; server and web never meet. */
const never = (name, from, to) => ({ name, severity: 'error', from: { path: from, pathNot: '\\.test\\.ts$' }, to: { path: to } });

export default {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    never('core-stands-alone', '^core', '^(server|web|contracts|demo|tools)'),
    never('units-know-nothing', '^core/units', '^core/(problems|smf|song|timing|instruments|operations|looking|handoff)'),
    never('problems-know-nothing-above', '^core/problems', '^core/(smf|song|timing|instruments|operations|looking|handoff)'),
    never('smf-below-song', '^core/smf', '^core/(song|timing|instruments|operations|looking|handoff)'),
    never('timing-below-operations', '^core/(song|timing)', '^core/(operations|looking|handoff)'),
    never('operations-below-looking-and-handoff', '^core/operations', '^core/(looking|handoff)'),
    never('looking-beside-handoff', '^core/looking', '^core/handoff'),
    never('contracts-know-core-alone', '^contracts', '^(server|web|demo|tools)'),
    never('server-not-web', '^server', '^web'),
    never('web-not-server', '^web', '^(server|demo|tools)'),
  ],
  options: { doNotFollow: { path: 'node_modules' }, tsPreCompilationDeps: true, tsConfig: { fileName: 'tsconfig.base.json' }, enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import'] }, exclude: { path: '\\.(css|svg)$' } },
};

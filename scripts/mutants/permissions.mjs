/**
 * Rules of permission, each broken once: the test of permissions must fail for every one.
 *
 * @typedef {{ file: string, rule: string, from: string, to: string, tests?: string[] }} ServerMutant
 */

/** @param {string} file below server/src @param {readonly (readonly [rule: string, from: string, to: string])[]} rules @returns {ServerMutant[]} */
const of = (file, rules) => rules.map(([rule, from, to]) => ({ file, rule, from, to }))

export const permissions = [
  ...of('saved/service.ts', [
    [
      'anybody changes what is shared',
      "(row.shared === 'everyone' && person.role === 'administrator')",
      "row.shared === 'everyone'",
    ],
    ['only administrators change what they own', 'row.ownerId === person.number ||', 'false ||'],
    [
      'a shared thing is changed by anybody',
      'if (!mayEdit(actor, row))\n      throw forbidden(`Only its owner may change',
      'if (mayEdit(actor, row) === undefined)\n      throw forbidden(`Only its owner may change',
    ],
    [
      'a shared thing is deleted by anybody',
      'if (!mayEdit(actor, row)) throw forbidden(`Only its owner may delete',
      'if (mayEdit(actor, row) === undefined) throw forbidden(`Only its owner may delete',
    ],
  ]),
  ...of('saved/seen.ts', [
    ['what others keep to themselves is seen', '{ ownerId: person }', "{ shared: 'me' }"],
    [
      'what is shared is not seen',
      "[{ shared: 'everyone' }, { ownerId: person }]",
      '[{ ownerId: person }]',
    ],
  ]),
  ...of('releases/service.ts', [
    ['one project kept is enough', 'projects.every((id) =>', 'projects.some((id) =>'],
    [
      'anybody plans releases',
      'if (!mayPlan(actor, projects))',
      'if (mayPlan(actor, projects) === undefined)',
    ],
    ['anybody makes a release', '  judgePlanner(actor, given)\n', ''],
    ['a release of others is taken over', '    judgePlanner(actor, projectsOf(before))\n', ''],
    [
      'a release is given to a project that one does not keep',
      '    judgePlanner(\n      actor,\n      projects.map(({ id }) => id),\n    )\n',
      '',
    ],
    [
      'anybody deletes a release',
      '    judgePlanner(actor, projectsOf(found))\n    if (await namesSpan',
      '    if (await namesSpan',
    ],
  ]),
  ...of('iterations/service.ts', [
    ['anybody plans for a team', 'if (owner?.people.has(person.number)) return', 'return'],
    [
      'those of a team do not plan for it',
      'if (owner?.people.has(person.number)) return',
      'if (owner === undefined && person === undefined) return',
    ],
    [
      'anybody changes an iteration',
      '    judgePlanner(actor, owner)\n    await lockKey',
      '    await lockKey',
    ],
    [
      'anybody deletes an iteration',
      '    judgePlanner(actor, team?.identity ?? null)\n    if (await namesSpan',
      '    if (await namesSpan',
    ],
    [
      'anybody starts an iteration',
      '    judgePlanner(actor, iteration.team?.identity ?? null)\n    judgeStart',
      '    judgeStart',
    ],
  ]),
  ...of('iterations/plan.ts', [
    [
      'anybody finishes an iteration',
      '    judgePlanner(actor, iteration.team?.identity ?? null)\n    judgeFinish',
      '    judgeFinish',
    ],
  ]),
  ...of('iterations/absences.ts', [
    [
      'anybody changes absences of others',
      'number !== person.number && ',
      'number === undefined && ',
    ],
    ['administrators change no absences of others', " && person.role !== 'administrator')", ')'],
  ]),
  ...of('notices/service.ts', [
    [
      'viewers follow for others',
      "person.role === 'viewer' && other !== person.id",
      'other === undefined',
    ],
    [
      'viewers unfollow for others',
      '  judgeOther(actor, other)\n  const { id } = await findItem',
      '  const { id } = await findItem',
    ],
    [
      'viewers make others follow',
      '  judgeOther(actor, other)\n  const { world, now } = actor',
      '  const { world, now } = actor',
    ],
  ]),
  ...of('labels/judge.ts', [
    [
      'anybody changes the labels of a project',
      'isKeeperOfProject(world, person, label.project)) return',
      'label.project.length > 0) return',
    ],
    [
      'anybody changes labels that all share',
      '  throw forbidden(\n    label.project === null',
      '  if (label.project === null) return\n  throw forbidden(\n    label.project === null',
    ],
  ]),
  ...of('components/service.ts', [
    [
      'anybody changes components',
      'if (!isKeeperOfProject(world, person, project))',
      'if (isKeeperOfProject(world, person, project) === undefined)',
    ],
    [
      'anybody makes components',
      '  judgeKeeping(actor, project)\n  const { title = given.title',
      '  const { title = given.title',
    ],
  ]),
  ...of('templates/service.ts', [
    [
      'anybody makes templates',
      'if (!mayKeep(actor, { rulebook, project }))',
      'if (mayKeep(actor, { rulebook, project }) === undefined)',
    ],
    [
      'anybody changes templates',
      "    if (!mayKeep(actor, row))\n      throw forbidden('Only the keepers of its rulebook",
      "    if (mayKeep(actor, row) === undefined)\n      throw forbidden('Only the keepers of its rulebook",
    ],
  ]),
  ...of('work/comments.ts', [
    [
      'anybody edits comments',
      'if (!mayChange(actor, wordings))',
      'if (mayChange(actor, wordings) === undefined)',
    ],
    [
      'anybody deletes comments',
      'if (!mayTakeBack(actor, item, wordings))',
      'if (mayTakeBack(actor, item, wordings) === undefined)',
    ],
    [
      'every author is the one who asks',
      'wordings[0].byId === person.number',
      'wordings[0].byId > 0',
    ],
    [
      'keepers delete no comments',
      ' && isKeeperOfProject(actor.world, actor.person, project.id))',
      " && project.id === '')",
    ],
  ]),
  ...of('workspace/rights.ts', [
    [
      'every member keeps the project',
      '?.keepers.has(person.number)',
      '?.members.has(person.number)',
    ],
    [
      'administrators keep nothing',
      "export const isKeeperOfProject = (world: World, person: Person, project: string): boolean =>\n  person.role === 'administrator' ||",
      'export const isKeeperOfProject = (world: World, person: Person, project: string): boolean =>',
    ],
    [
      'who keeps one rulebook changes every one',
      'rulebooksKeptBy(world, person).includes(elementAt(path, 1))',
      "rulebooksKeptBy(world, person).length > 0 && elementAt(path, 1) !== ''",
    ],
    [
      'a draft may change anything',
      '  if (beyond)\n',
      '  if (beyond && actor.world === undefined)\n',
    ],
    [
      'anybody works on drafts',
      'rulebooksKeptBy(world, person).length > 0)',
      'world !== undefined)',
    ],
    ['administrators define nothing', "  if (person.role === 'administrator') return true\n", ''],
  ]),
  ...of('definitions/openDraft.ts', [
    [
      'the drafts of others are open',
      '{ madeBy: person.number }',
      '{ shared: person.number === 0 }',
    ],
  ]),
  ...of('bulk/service.ts', [
    [
      'changes of many by others are found',
      "person.role === 'administrator' ? {} : { byId: person.number }",
      "person.role === 'administrator' ? {} : {}",
    ],
    [
      'administrators find only their own',
      "person.role === 'administrator' ? {} : { byId: person.number }",
      '{ byId: person.number }',
    ],
  ]),
  ...of('exchange/import.ts', [
    [
      'files of others are found',
      'const where = { identity, byId: person.number }',
      'const where = person ? { identity } : {}',
    ],
  ]),
  ...of('jots/service.ts', [
    [
      'jots of others are found',
      'where: { identity, byId: person.number }',
      'where: person ? { identity } : {}',
    ],
  ]),
  ...of('exchange/subscriptions.ts', [
    [
      'addresses of others are ended',
      'where: { identity, personId: person.number }',
      'where: person ? { identity } : {}',
    ],
  ]),
  ...of('http/endpoint.ts', [
    [
      'every role is enough',
      'roles.indexOf(person.role) < roles.indexOf(served.role)',
      'roles.indexOf(person.role) < 0',
    ],
    [
      'the highest role is one too low',
      'roles.indexOf(person.role) < roles.indexOf(served.role)',
      'roles.indexOf(person.role) + 1 < roles.indexOf(served.role)',
    ],
  ]),
  ...of('workspace/visibility.ts', [
    [
      'closed projects are open',
      'project.open || person.role',
      'project.id !== undefined || person.role',
    ],
    ['members see no closed project', ' || project.members.has(person.number)', ''],
    [
      'administrators see no closed project',
      "project.open || person.role === 'administrator' ||",
      'project.open ||',
    ],
  ]),
].map((mutant) => ({ ...mutant, tests: ['permission'] }))

import type { HomeView } from '../../api/client.ts';
import type { ShapeName } from '../../kit/Shape.vue';

/** The areas of the set-up in the order in which they are built: how far each is, and what is to be mended in it. */
export function areaRows(view: Pick<HomeView, 'counts' | 'findings'>) {
  const { counts } = view;
  const rows = [
    {
      area: 'people',
      word: 'People',
      path: '/people',
      done: counts.registered,
      all: counts.people,
      unit: 'can be reached',
      needs: '',
      empty: 'Nobody yet but administrators',
      begin: 'Make somebody who answers',
    },
    {
      area: 'trunks',
      word: 'Trunks',
      path: '/trunks',
      done: counts.reachedTrunks,
      all: counts.trunks,
      unit: 'reached',
      needs: '',
      empty: 'No line to a provider',
      begin: 'Make a trunk',
    },
    {
      area: 'dialling',
      word: 'Dialling',
      path: '/dialling',
      done: counts.soundRules,
      all: counts.rules,
      unit: 'rules without doubt',
      needs: 'needs 2',
      empty: 'What is dialled goes out as it stands',
      begin: 'Make a rule',
    },
    {
      area: 'numbers',
      word: 'Numbers',
      path: '/numbers',
      done: counts.routedNumbers,
      all: counts.numbers,
      unit: 'lead somewhere',
      needs: 'needs 6',
      empty: 'No number that callers dial',
      begin: 'Enter a number',
    },
    {
      area: 'answering',
      word: 'Answering',
      path: '/answering',
      done: counts.publishedPlans,
      all: counts.plans,
      unit: 'plans published',
      needs: '',
      empty: 'Calls go straight to people and queues',
      begin: 'Build a plan',
    },
    {
      area: 'queues',
      word: 'Queues',
      path: '/queues',
      done: counts.staffedQueues,
      all: counts.queues,
      unit: 'have somebody signed in',
      needs: 'needs 1',
      empty: 'Nothing where callers wait',
      begin: 'Make a queue',
    },
    {
      area: 'records',
      word: 'Records',
      path: '/records',
      done: counts.readConnections,
      all: counts.connections,
      unit: 'customer system read',
      needs: '',
      empty: 'Callers are known by their number alone',
      begin: 'Connect a customer system',
    },
    {
      area: 'sources',
      word: 'Sources',
      path: '/sources',
      done: counts.numberedSources,
      all: counts.sources,
      unit: 'have a number',
      needs: 'needs 4',
      empty: 'No advert is told from another',
      begin: 'Make a source',
    },
    {
      area: 'campaigns',
      word: 'Campaigns',
      path: '/campaigns',
      done: counts.runningCampaigns,
      all: counts.campaigns,
      unit: 'running',
      needs: 'needs 2, 6',
      empty: 'Nobody is called',
      begin: 'Make a campaign',
    },
    {
      area: 'calls',
      word: 'Calls',
      path: '/calls',
      done: counts.callsReachedSomebody,
      all: counts.calls,
      unit: 'reached somebody in 24 h',
      needs: 'needs 4',
      empty: 'No call yet',
      begin: 'Try one below',
    },
  ];
  return rows.map((row, index) => {
    // What callers hear is mended on its own page, and belongs to how they are answered.
    const findings = view.findings.filter(
      ({ area }) =>
        area === row.area || (row.area === 'answering' && (area === 'prompts' || area === 'hours')),
    );
    const fault = findings.some((finding) => finding.severity === 'fault');
    const state: { shape: ShapeName; word: string } = fault
      ? { shape: 'fault', word: 'Fault' }
      : findings.length > 0 || row.all === 0
        ? { shape: 'missing', word: row.all === 0 ? 'Nothing yet' : 'Part done' }
        : { shape: 'done', word: 'Done' };
    return { ...row, number: index + 1, findings, state };
  });
}

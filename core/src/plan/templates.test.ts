import { describe, expect, test } from 'vitest';
import { checkPlan } from './check.ts';
import { checkView } from './check.testing.ts';
import { compiledPlan } from './document.ts';
import { outline } from './outline.ts';
import { planTemplates } from './templates.ts';

describe.each(planTemplates)('the template $name', ({ key, document }) => {
  test('has nothing wrong with it but what is still to be chosen', () => {
    const findings = checkPlan(compiledPlan(key, 1, document), checkView());
    expect(new Set(findings.map(({ code }) => code))).toEqual(new Set(['config']));
    for (const finding of findings)
      expect(finding).toMatchObject({ said: expect.stringMatching(/^Choose /) as string });
  });

  test('stands in the list without a step that nobody gets to', () => {
    const steps = outline(document).filter(({ kind }) => kind === 'step');
    expect(steps).toHaveLength(Object.keys(document.steps).length);
  });
});

test('each is called differently', () => {
  expect(new Set(planTemplates.map(({ name }) => name)).size).toBe(planTemplates.length);
});

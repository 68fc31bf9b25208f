import fc from 'fast-check';
import { expect, test } from 'vitest';
import { roles } from '../model/roles.ts';
import { mayEditPlan, mayPublishPlan } from './rights.ts';

const who = fc.record({
  role: fc.constantFrom(...roles),
  looksAfter: fc.subarray(['freight', 'groups', 'night']),
});
const rights = fc.record({ teamId: fc.constantFrom(null, 'freight', 'groups'), publishes: fc.boolean() });

test('an administrator may do all, agents and auditors nothing, and who publishes may also edit', () => {
  fc.assert(
    fc.property(who, rights, (person, plan) => {
      if (person.role === 'administrator') expect(mayPublishPlan(person, plan)).toBe(true);
      if (person.role === 'agent' || person.role === 'auditor') expect(mayEditPlan(person, plan)).toBe(false);
      if (mayPublishPlan(person, plan)) expect(mayEditPlan(person, plan)).toBe(true);
    }),
  );
});

test('a supervisor works at the plans of the teams they look after', () => {
  const chief = { role: 'supervisor', looksAfter: ['freight'] } as const;
  expect(mayEditPlan(chief, { teamId: 'freight', publishes: false })).toBe(true);
  expect(mayPublishPlan(chief, { teamId: 'freight', publishes: false })).toBe(false);
  expect(mayPublishPlan(chief, { teamId: 'freight', publishes: true })).toBe(true);
  expect(mayEditPlan(chief, { teamId: 'groups', publishes: true })).toBe(false);
  // A plan that is nobody's stays with the administrators, whoever a supervisor looks after.
  expect(mayEditPlan({ ...chief, looksAfter: [] }, { teamId: null, publishes: true })).toBe(false);
});

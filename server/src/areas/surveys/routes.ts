import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { surveyBy, surveyPath, surveyRow } from '@night-bell/core/contracts/surveys';
import { readers } from '@night-bell/core/model/roles';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { answersBy } from './surveys.queries.ts';

const usualDays = 30;
const dayMs = 86_400_000;

export function surveyRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: surveyPath,
      area: 'Surveys',
      summary:
        'What callers answered after the talk, by person, queue, plan or question; the last 30 days unless said',
      who: readers,
      query: Joi.object<{ by: (typeof surveyBy)[number]; from?: Date; to?: Date }>({
        by: Joi.string()
          .valid(...surveyBy)
          .default('person'),
        from: Joi.date().iso(),
        to: Joi.date().iso(),
      }),
      reply: Joi.array().items(objectSchema(surveyRow).optional()),
      errors: [],
      handle: ({ query: { by, from, to } }) => {
        const end = to ?? new Date();
        return answersBy(database, {
          by,
          from: from ?? new Date(end.getTime() - usualDays * dayMs),
          to: end,
        });
      },
    }),
  ];
}

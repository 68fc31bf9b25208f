import type { Destination, NoAnswerStep } from '@night-bell/core/model/destination';
import createClient from 'openapi-fetch';
import type { components, paths } from './schema.ts';

export type { CampaignView as Campaign } from '@night-bell/core/contracts/campaigns';
export type {
  FaxBoxView as FaxBox,
  OutsideView as OutsideNumber,
  RoomView as Room,
} from '@night-bell/core/contracts/destinations';
export type { RuleView as Rule } from '@night-bell/core/contracts/dialling-rules';
export type { QueueView as Queue } from '@night-bell/core/contracts/queues';
export type { SkillView as Skill } from '@night-bell/core/contracts/skills';
export type { SourceView as Source } from '@night-bell/core/contracts/sources';
export type { TrunkView as Trunk } from '@night-bell/core/contracts/trunks';

export type ProblemBody = components['schemas']['Problem'] & {
  current?: unknown;
  by?: string;
  usedBy?: unknown;
};

/** A problem the API answered with, or the lack of an answer. */
export class ApiProblem extends Error {
  readonly code: string;
  readonly detail: string;
  readonly faults: Record<string, string>;
  readonly body: ProblemBody | null;

  constructor(code: string, detail: string, body: ProblemBody | null = null) {
    super(detail);
    this.code = code;
    this.detail = detail;
    this.body = body;
    this.faults = Object.fromEntries((body?.errors ?? []).map((fault) => [fault.path, fault.detail]));
  }
}

/** What went wrong, in one sentence: that of the first field, or of the whole. */
export function sentenceOf(error: unknown): string {
  if (!(error instanceof ApiProblem)) return 'That did not work. Try again.';
  return Object.values(error.faults)[0] ?? error.detail;
}

let held: string | null = null;

/** Proves that a request comes from this page. */
export const token = (): string | null => held;

export function setToken(value: string | null): void {
  held = value;
}

export const api = createClient<paths>({ baseUrl: '', fetch: (request) => fetch(request) });

api.use({
  onRequest({ request }) {
    if (held !== null && request.method !== 'GET') request.headers.set('x-night-bell-token', held);
    return request;
  },
});

const away = 'Night Bell is not answering. Nothing you typed is lost; it tries again by itself.';

/** The data of an answer, or an ApiProblem that says what to do. */
export async function ask<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await answer.catch(() => {
    throw new ApiProblem('away', away);
  });
  if (response.ok) return data as T;
  const body = error as Partial<ProblemBody> | undefined;
  if (typeof body?.detail === 'string')
    throw new ApiProblem(body.code ?? 'broken', body.detail, body as ProblemBody);
  throw new ApiProblem('away', away);
}

export const ifMatch = (version: number) => ({ 'If-Match': `"${version}"` });

type Json<T> = T extends { content: { 'application/json': infer Body } } ? Body : never;
type Reply<Path extends keyof paths, Method extends keyof paths[Path]> = paths[Path][Method] extends {
  responses: { 200: infer Answer };
}
  ? Json<Answer>
  : never;

export type SessionView = Reply<'/api/session', 'get'>;
export type Person = Omit<Reply<'/api/people/{id}', 'get'>['person'], 'noAnswer'> & {
  noAnswer: NoAnswerStep[];
};
/** A person as lists show them. */
export type PersonRow = Reply<'/api/people', 'get'>[number];
export type NewPerson = Reply<'/api/people', 'post'>;
export type Team = Reply<'/api/teams', 'get'>[number];
/** The document says "one of these or null" in a way that the generated types lose. */
type WithDestinations<T, Required extends string, Nullable extends string> = Omit<T, Required | Nullable> &
  Record<Required, Destination> &
  Record<Nullable, Destination | null>;
export type HeldNumber = WithDestinations<Reply<'/api/numbers', 'get'>[number], never, 'destination'>;
export type Change = Reply<'/api/items/{id}/history', 'get'>[number];
export type CallList = Reply<'/api/calls', 'get'>;
export type CallRow = CallList['calls'][number];
export type CallPage = Reply<'/api/calls/{id}', 'get'>;
export type TestCallAnswer = Reply<'/api/test-calls', 'post'>;
export type HomeView = Reply<'/api/home', 'get'>;
export type StandInView = Reply<'/api/stand-ins', 'get'>;
export type UsedBy = Reply<'/api/people/{id}', 'get'>['usedBy'][number];
export type Phone = Person['phones'][number];
export type EmergencyCall = Reply<'/api/emergency-calls', 'get'>[number];
export type KeyFaces = Reply<'/api/phones/{id}/line-keys', 'get'>;
export type PhoneHealth = Reply<'/api/phones/{id}/health', 'get'>;
export type PhoneSecret = NonNullable<NewPerson['phone']>;
export type EnrolmentView = Reply<'/api/enrolments/look', 'post'>;
export type PersonAccess = Reply<'/api/people/{id}/access', 'get'>;
export type AgentSettings = Reply<'/api/agent-settings', 'get'>;
export type TrunkState = Reply<'/api/trunks/{id}/state', 'get'>;
export type TrunkTrial = Reply<'/api/trunks/{id}/ring', 'post'>;
export type RuleTrial = Reply<'/api/dialling-rules/try', 'post'>;
export type RuleWarnings = {
  warnings: RuleWarning[];
  countries: Reply<'/api/dialling-rule-warnings', 'get'>['countries'];
};
/** The document leaves open what each kind of warning has beside its rule. */
export interface RuleWarning {
  kind: 'shadowed' | 'overlap' | 'catchAll' | 'emergency';
  ruleId: string;
  by?: string[];
  otherId?: string;
  example?: string;
  digits?: string;
}
export type Balance = Reply<'/api/balance', 'get'>;
export type ShopCountry = Reply<'/api/number-shop/countries', 'get'>[number];
export type ShopOffer = Reply<'/api/number-shop/numbers', 'get'>[number];
export type ShopHold = Reply<'/api/number-shop/holds', 'get'>[number];
export type BroughtNumbers = Reply<'/api/numbers/list', 'post'>;
export type Fax = Reply<'/api/fax-boxes/{id}/faxes', 'get'>[number];
export type CampaignProgress = Reply<'/api/campaigns/{id}/progress', 'get'>;
export type Contact = Reply<'/api/campaigns/{id}/contacts', 'get'>[number];
export type ListPreview = Reply<'/api/campaigns/{id}/contacts/preview', 'post'>;
export type SourceReport = Reply<'/api/source-report', 'get'>;
export type Connection = Reply<'/api/connections', 'get'>[number];
export type AllowedAddress = Reply<'/api/allowed-addresses', 'get'>[number];
export type RecordRow = Reply<'/api/records', 'get'>[number];
export type RecordView = Reply<'/api/records/{id}', 'get'>;
export type OptOut = Reply<'/api/opt-outs', 'get'>[number];
export type SetAside = Reply<'/api/set-aside', 'get'>[number];
export type DeskView = Reply<'/api/desk', 'get'>;
export type Text = Reply<'/api/texts', 'get'>[number];
export type DeskWay = Reply<'/api/desk/ways', 'get'>[number];
export type DeskCallView = Reply<'/api/desk/calls/{id}', 'get'>;
export type FloorView = Reply<'/api/floor', 'get'>;
export type AgentLive = FloorView['agents'][number];
export type QueueLive = FloorView['queues'][number];
export type CallLive = FloorView['calls'][number];
export type TrunkLive = FloorView['trunks'][number];
export type CampaignLive = FloorView['campaigns'][number];

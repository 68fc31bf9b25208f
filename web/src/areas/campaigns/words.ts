import { locale } from '../../kit/locale.ts';
import type { Outcome } from '@night-bell/core/model/outcomes';
import type { CampaignDraft, CampaignView } from '@night-bell/core/contracts/campaigns';
import { campaignsApi } from '../../api/lists.ts';
import type { ItemArea } from '../../kit/item-area.ts';
import { outcomesWords } from '../../kit/words.ts';

export const campaignFieldWords: Record<string, string> = {
  status: 'State',
  name: 'Name',
  queueId: 'Answered to',
  trunkId: 'Dials over',
  numberId: 'Shown as',
  ratio: 'Calls for each free agent',
  mostInAir: 'At most in the air',
  abandonPercent: 'Abandon limit',
  ringSeconds: 'Rings for',
  message: 'Message',
  optOutKey: 'Opt-out key',
  attempts: 'Attempts',
  retryMinutes: 'Apart',
  hoursFrom: 'From',
  hoursTo: 'To',
  script: 'Script',
  outcomes: 'Outcomes',
};

/** `8:00` of 480 minutes, as a time field takes it: `08:00`. */
export function timeOfDay(minutes: number): string {
  return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
}

export function minutesOf(time: string): number {
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  return hours * 60 + minutes;
}

function showCampaign(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'outcomes') return outcomesWords(value as Outcome[]);
    if (value === null || value === undefined || value === '') return 'none';
    if (field.endsWith('Id')) return nameOf(value as string);
    if (field === 'hoursFrom' || field === 'hoursTo') return timeOfDay(value as number);
    if (field === 'ringSeconds') return `${String(value)} s`;
    if (field === 'retryMinutes') return `${String(value)} min`;
    return field === 'abandonPercent' ? `${String(value)} %` : String(value);
  };
}

/** Campaigns; `nameOf` names queue, trunk and number. */
export const campaignArea = (nameOf: (id: string) => string): ItemArea<CampaignDraft, CampaignView> => ({
  api: campaignsApi,
  page: '/campaigns',
  savedAs: 'campaigns',
  title: 'Campaigns',
  one: 'campaign',
  second: 'Calls people on a list',
  // Made from its name alone, with what the server takes as usual.
  fresh: () => ({ name: '' }) as CampaignDraft,
  draftOf: (campaign) => {
    const {
      id: _id,
      version: _version,
      retired: _retired,
      status: _status,
      since: _since,
      ...rest
    } = campaign;
    const { callerId: _callerId, fields: _fields, contacts: _contacts, ...draft } = rest;
    return draft;
  },
  words: campaignFieldWords,
  show: showCampaign(nameOf),
});

/** Why rows of a list are left out. */
export const faultWords: Record<string, string> = {
  notANumber: 'not a phone number',
  twice: 'twice in the file',
  alreadyListed: 'in the list already',
  optedOut: 'on the opt-out list',
};

/** What happens from the moment it is started: whom it calls, how many at a time, and when. */
export function startWords(
  {
    name,
    contacts,
    ratio,
    mostInAir,
    hoursFrom,
    hoursTo,
  }: Pick<CampaignView, 'name' | 'contacts' | 'ratio' | 'mostInAir' | 'hoursFrom' | 'hoursTo'>,
  queueName: string,
): string {
  const each = ratio === 1 ? '1 call' : `${ratio} calls`;
  const most = mostInAir === null ? '' : `, at most ${mostInAir} at once`;
  const list = contacts === 1 ? '1 contact' : `${contacts.toLocaleString(locale.value)} contacts`;
  const hours = `${timeOfDay(hoursFrom)} and ${timeOfDay(hoursTo)}`;
  return `${name} calls its ${list} now: ${each} for each free agent of ${queueName}${most}, between ${hours} where the contact is.`;
}

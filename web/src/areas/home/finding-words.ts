import { money } from '../../kit/money.ts';
import { formatNumber } from '@night-bell/core/numbers/format';
import { setAsideWords } from '../set-aside/words.ts';
import type { HomeView } from '../../api/client.ts';

type Finding = HomeView['findings'][number];

/** The first of those it is about, and how many more. */
function manyPeople({ itemName, detail }: Finding): string {
  const more = Number(detail) - 1;
  return more === 0 ? itemName : `${itemName} and ${more} more`;
}

/** A finding as fact, then fix. */
export function findingWords(finding: Finding): { fact: string; fix: string; path: string } {
  const item = finding.itemId ?? '';
  switch (finding.code) {
    case 'phoneRefused':
      return {
        fact: `${finding.itemName}'s phone refused: ${finding.detail}`,
        fix: 'See why, and mend it',
        path: `/people/${item}?tab=phones`,
      };
    case 'signedInWithoutPhone':
      return {
        fact: `${finding.itemName} is signed in without a registered phone`,
        fix: 'Check phone',
        path: `/people/${item}`,
      };
    case 'setAside':
      return {
        fact:
          finding.detail === '1'
            ? `The exchange could not take something and set it aside: ${setAsideWords(finding.itemName)}`
            : `The exchange set ${finding.detail} things aside that it could not take, lately ${setAsideWords(finding.itemName)}`,
        fix: 'See what, and which calls',
        path: '/set-aside',
      };
    case 'planFaulty':
    case 'planDoubtful':
      return {
        fact: `${finding.itemName}, ${finding.detail}`,
        fix: 'Go to the step',
        path: `/answering/${item}?step=${finding.place ?? ''}`,
      };
    case 'hoursNeverOpen':
      return {
        fact: `${finding.itemName} are never open, and something goes by them`,
        fix: 'Draw their hours',
        path: `/hours/${item}`,
      };
    case 'hoursDaysOver':
      return {
        fact: `${finding.itemName} have no holiday or unusual day ahead; the last was ${finding.detail}`,
        fix: 'Bring the next year',
        path: `/hours/${item}`,
      };
    case 'planNotPublished':
      return {
        fact: `A number leads to ${finding.itemName}, which was never published`,
        fix: 'Publish it',
        path: `/answering/${item}`,
      };
    case 'promptNotPublished':
      return {
        fact: `${finding.itemName} is played by a plan and was never published`,
        fix: 'Publish it',
        path: `/prompts/${item}`,
      };
    case 'promptWithoutSound':
      return {
        fact: `${finding.itemName} has no sound: callers hear the default of its kind`,
        fix: 'Speak it',
        path: `/prompts/${item}`,
      };
    case 'promptClipping':
      return {
        fact: `${finding.itemName} is too loud and cut off in places`,
        fix: 'Bring it again, softer',
        path: `/prompts/${item}`,
      };
    case 'promptOfAnother':
      return {
        fact: `${finding.detail} plays ${finding.itemName}, which belongs to somebody it has nothing to do with`,
        fix: 'See whose it is',
        path: `/prompts/${item}`,
      };
    case 'leaveBehindsAlike':
      return {
        fact: `${finding.itemName} looks like ${finding.detail} in a short list`,
        fix: 'Give it another name',
        path: `/prompts/${item}`,
      };
    case 'forwardLoop':
      return {
        fact: `${finding.itemName} sends calls back to us: callers go round until we stop them`,
        fix: 'See where it leads',
        path: `/destinations/${item}`,
      };
    case 'boxUnheard':
      return {
        fact: `${finding.detail === '1' ? '1 message' : `${finding.detail} messages`} in ${finding.itemName}, which nobody hears`,
        fix: 'Choose who',
        path: `/voicemail/${item}`,
      };
    case 'boxFull':
      return {
        fact: `${finding.itemName} is full: callers are sent away`,
        fix: 'See its messages',
        path: `/voicemail/${item}`,
      };
    case 'boxGreetingOfAnother':
      return {
        fact: `${finding.itemName} greets with ${finding.detail}, which belongs to somebody else`,
        fix: 'Choose another',
        path: `/voicemail/${item}`,
      };
    case 'storageFull':
      return {
        fact: 'There is no room for recordings: no box takes a message',
        fix: 'See the boxes',
        path: '/voicemail',
      };
    case 'noPeople':
      return { fact: 'Nobody takes calls yet', fix: 'Make a person', path: '/people' };
    case 'noQueues':
      return { fact: 'No queue holds callers yet', fix: 'Make a queue', path: '/queues' };
    case 'noNumbers':
      return { fact: 'No number is entered yet', fix: 'Enter a number', path: '/numbers' };
    case 'queueWithoutMembers':
      return { fact: `${finding.itemName} has no members`, fix: 'Add members', path: `/queues/${item}` };
    case 'queueWithoutEnd':
      return {
        fact: `Callers of ${finding.itemName} can wait without end`,
        fix: 'Set a limit',
        path: `/queues/${item}`,
      };
    case 'queueNobodyFits':
      return {
        fact: `No member of ${finding.itemName} has enough ${finding.detail}: its callers wait for nobody`,
        fix: 'Ask for less, or let others join',
        path: `/queues/${item}`,
      };
    case 'groupRingsNobody':
      return {
        fact: `${finding.itemName} rings nobody: none of its people has a phone`,
        fix: 'Add somebody',
        path: `/ring-groups/${item}`,
      };
    case 'groupAllSitOut':
      return {
        fact: `All members of ${finding.itemName} sit out`,
        fix: 'See who',
        path: `/ring-groups/${item}`,
      };
    case 'callersWaitNobodyThere':
      return {
        fact: `${finding.detail} wait in ${finding.itemName}, nobody is signed in`,
        fix: 'See who could',
        path: `/queues/${item}`,
      };
    case 'numberUnrouted':
      return {
        fact: `${formatNumber(finding.detail)} ${finding.itemName} leads nowhere`,
        fix: 'Choose where',
        path: `/numbers/${item}`,
      };
    case 'destinationRetired':
      return {
        fact: `${finding.itemName} leads to something deactivated`,
        fix: 'Choose where',
        path: `/numbers/${item}`,
      };
    case 'trunkUnreached':
      return {
        fact: `Nothing reaches ${finding.detail}, the provider of ${finding.itemName}`,
        fix: 'Check the host',
        path: `/trunks/${item}`,
      };
    case 'trunkRefused':
      return {
        fact: `${finding.itemName} is not registered: ${finding.detail}`,
        fix: 'See why, and mend it',
        path: `/trunks/${item}`,
      };
    case 'secretWeak':
      return {
        fact: `The secret of ${finding.itemName} is easily guessed`,
        fix: 'Type a better one',
        path: `/trunks/${item}`,
      };
    case 'secretShared':
      return finding.area === 'trunks'
        ? {
            fact: `The secret of ${finding.itemName} is used elsewhere too`,
            fix: 'Type another',
            path: `/trunks/${item}`,
          }
        : {
            fact: `${finding.itemName}'s phone shares its secret with another`,
            fix: 'Make a new set-up',
            path: `/people/${item}`,
          };
    case 'certificateEnds':
      return {
        fact: `The certificate of ${finding.itemName} is good for ${finding.detail} more days`,
        fix: 'Make another',
        path: `/trunks/${item}`,
      };
    case 'ruleShadowed':
      return {
        fact: `The rule ${finding.itemName} is never reached`,
        fix: 'See what hides it',
        path: `/dialling/${item}`,
      };
    case 'ruleOverlap':
      return {
        fact: `The rule ${finding.itemName} is as specific as another`,
        fix: 'See where they meet',
        path: `/dialling/${item}`,
      };
    case 'ruleCatchAll':
      return {
        fact: `The rule ${finding.itemName} sends anything anywhere`,
        fix: 'Narrow it',
        path: `/dialling/${item}`,
      };
    case 'ruleEmergency':
      return {
        fact: `The rule ${finding.itemName} would rewrite an emergency number`,
        fix: 'Look at it',
        path: `/dialling/${item}`,
      };
    case 'noEmergencyAddress':
      return {
        fact: `${manyPeople(finding)} could call for help without saying where`,
        fix: 'Give an address',
        path: `/people/${item}`,
      };
    case 'noCallerId':
      return {
        fact: `${manyPeople(finding)} would show no number when dialling`,
        fix: 'Choose one',
        path: `/people/${item}`,
      };
    case 'numberReported':
      return {
        fact: `${formatNumber(finding.detail)} ${finding.itemName} was reported for unwanted calls`,
        fix: 'See by whom',
        path: `/numbers/${item}`,
      };
    case 'balanceLow':
      return {
        fact: `The balance is low: ${money(finding.detail)}`,
        fix: 'Pay in',
        path: '/numbers',
      };
    case 'seatsTaken':
      return {
        fact: `All seats are in use, ${finding.detail}: nobody more can sign in`,
        fix: 'Rent more',
        path: '/people',
      };
    case 'noTrunks':
      return { fact: 'Campaigns have no line out yet', fix: 'Make a trunk', path: '/trunks' };
    case 'outsideTrunkGone':
      return {
        fact: `The trunk to ${finding.itemName}'s outside number is gone`,
        fix: 'Choose another',
        path: `/people/${item}`,
      };
    case 'recordsAway':
      return {
        fact: `${finding.itemName}: ${finding.detail}`,
        fix: 'Test the connection',
        path: '/records',
      };
    case 'sourceWithoutNumber':
      return {
        fact: `${finding.itemName} makes no number ring`,
        fix: 'Give it a number',
        path: '/numbers',
      };
    case 'campaignIncomplete':
      return {
        fact: `${finding.itemName} needs: ${finding.detail}`,
        fix: 'Choose',
        path:
          finding.detail === 'contact list'
            ? `/campaigns/${item}?tab=contacts`
            : `/campaigns/${item}?tab=settings`,
      };
    case 'campaignNobody':
      return {
        fact: `${finding.itemName} runs, and nobody of its queue is signed in`,
        fix: 'See the campaign',
        path: `/campaigns/${item}`,
      };
    case 'campaignAtLimit':
      return {
        fact: `${finding.itemName} abandoned ${finding.detail}: slowed down`,
        fix: 'See the campaign',
        path: `/campaigns/${item}`,
      };
    default:
      return { fact: finding.itemName, fix: 'Look', path: '/' };
  }
}

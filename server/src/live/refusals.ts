import type { Refusal } from '@night-bell/core/exchange/kernel/events';

/** Why the exchange did not take a command, for the person who gave it. */
export function refusalSentence(refusal: Refusal): string {
  switch (refusal) {
    case 'malformed':
      return 'What was asked of the exchange is not whole. Reload the page and try again.';
    case 'notSignedIn':
      return 'This agent is signed out. Sign them in first.';
    case 'noSeat':
      return 'All rented seats are in use. Sign somebody out, or rent more seats under People, Agent settings.';
    case 'atLimit':
      return 'The phone rings or is in a call. Hang up first.';
    case 'notWrappingUp':
      return 'This agent is not wrapping up.';
    case 'unknownPerson':
      return 'The exchange does not know this person. A deactivated person takes no calls.';
    case 'unknownPhone':
      return 'The exchange does not know this phone.';
    case 'unknownCall':
    case 'unknownLeg':
    case 'legNotRinging':
    case 'legNotConnected':
      return 'That call has moved on meanwhile.';
    case 'callExists':
      return 'That call is already known.';
    case 'unknownCampaign':
      return 'The exchange does not know this campaign.';
    case 'unknownBox':
      return 'The exchange does not know this voicemail box.';
    case 'unknownRingGroup':
      return 'The exchange knows no such ring group. One that is deactivated rings nobody.';
    case 'notAMember':
      return 'They are no member of this ring group. An administrator can add them.';
    case 'notExpected':
      return 'That does nothing at this moment.';
    case 'notReachable':
      return 'That phone is not registered.';
    case 'cannotBeRung':
      return 'They cannot be rung now: their phone is not there, rings, or is in a call. The caller stays with you.';
    case 'noOutsideNumber':
      return 'This person has no outside number that can be dialled.';
    case 'trunkFull':
      return 'The trunk has no channel free. Try again when a call has ended.';
    case 'notRecording':
      return 'Nothing of this call is recorded now, or it is as you ask already.';
    case 'mayNotPause':
      return 'This recording is not paused by you: its plan or queue says who may.';
    case 'lineOpen':
      return 'A line is open already, or the phone is ringing.';
  }
}

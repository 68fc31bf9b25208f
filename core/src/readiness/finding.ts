export type FindingCode =
  | 'planFaulty'
  | 'planDoubtful'
  | 'hoursNeverOpen'
  | 'hoursDaysOver'
  | 'planNotPublished'
  | 'promptNotPublished'
  | 'promptWithoutSound'
  | 'promptClipping'
  | 'promptOfAnother'
  | 'leaveBehindsAlike'
  | 'forwardLoop'
  | 'boxUnheard'
  | 'boxFull'
  | 'boxGreetingOfAnother'
  | 'storageFull'
  | 'phoneRefused'
  | 'signedInWithoutPhone'
  | 'queueWithoutMembers'
  | 'queueWithoutEnd'
  | 'queueNobodyFits'
  | 'groupRingsNobody'
  | 'groupAllSitOut'
  | 'callersWaitNobodyThere'
  | 'numberUnrouted'
  | 'destinationRetired'
  | 'trunkUnreached'
  | 'trunkRefused'
  | 'secretWeak'
  | 'secretShared'
  | 'certificateEnds'
  | 'ruleShadowed'
  | 'ruleOverlap'
  | 'ruleCatchAll'
  | 'ruleEmergency'
  | 'noEmergencyAddress'
  | 'noCallerId'
  | 'seatsTaken'
  | 'numberReported'
  | 'balanceLow'
  | 'outsideTrunkGone'
  | 'campaignIncomplete'
  | 'campaignNobody'
  | 'campaignAtLimit'
  | 'recordsAway'
  | 'sourceWithoutNumber'
  | 'setAside'
  | 'noTrunks'
  | 'noPeople'
  | 'noQueues'
  | 'noNumbers';

export type FindingArea =
  | 'people'
  | 'trunks'
  | 'dialling'
  | 'numbers'
  | 'answering'
  | 'prompts'
  | 'hours'
  | 'destinations'
  | 'queues'
  | 'records'
  | 'sources'
  | 'campaigns'
  | 'calls';

/** Something wrong (`fault`) or not there yet (`missing`), with the item where it is mended. */
export interface Finding {
  code: FindingCode;
  area: FindingArea;
  severity: 'fault' | 'missing';
  itemId: string | null;
  itemName: string;
  /** Refusal reason, digits or the like, where the sentence needs it. */
  detail: string;
  /** Where in the item: a step of a plan. */
  place?: string;
}

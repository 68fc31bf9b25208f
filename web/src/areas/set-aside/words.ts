/** What was set aside, as people say it; a kind without words of its own is named as it is. */
const words: Record<string, string> = {
  configurationChanged: 'a change of the set-up',
  clock: 'a timer',
  callArrived: 'a call coming in',
  callerHungUp: 'a caller hanging up',
  legAnswered: 'a phone being lifted',
  legFailed: 'a phone not taking a call',
  legEnded: 'a phone hanging up',
  keyPressed: 'a key',
  faxReceived: 'a fax',
  greetingEnded: 'the end of a greeting',
  contactsLeased: 'contacts to be called',
  callEnded: 'what was to be kept of a call',
  lostCall: 'the plain line of a lost call',
  charge: 'what a call cost',
  writeBack: 'what goes back to a record',
  ring: 'ringing a phone',
  dial: 'dialling',
  connect: 'putting two through',
  play: 'a prompt',
  release: 'ending a leg',
};

export function setAsideWords(kind: string): string {
  return words[kind] ?? kind;
}

export const whatWords = {
  event: 'Could not be handled',
  fact: 'Could not be written',
  effect: 'Could not be carried out',
} as const;

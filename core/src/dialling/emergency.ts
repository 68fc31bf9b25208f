/**
 * Numbers that bring help: North America (47 CFR 9.4), the international 112 and 999, and 933, with which North American
 * set-ups are tested.
 */
export const emergencyNumbers: readonly string[] = ['911', '112', '999', '933'];

/** Whether these digits call for help. No rule rewrites or blocks them, and no extension may stand in their way. */
export function isEmergency(digits: string): boolean {
  return emergencyNumbers.includes(digits);
}

/** Whether this is a time zone of the IANA database that this machine knows, by the name it goes by there. */
export function isZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

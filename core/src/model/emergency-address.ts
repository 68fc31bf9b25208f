/**
 * Where help is sent: a dispatchable location as 47 CFR 9.3 asks, a street address with what it takes to find the
 * caller within the building.
 */
export interface EmergencyAddress {
  street: string;
  /** Floor, suite, room; empty for a house of its own. */
  unit: string;
  city: string;
  region: string;
  postalCode: string;
  /** ISO 3166 code of two letters. */
  country: string;
}

/** The address as it is read out. */
export function addressWords({ street, unit, city, region, postalCode, country }: EmergencyAddress): string {
  return [`${street}${unit === '' ? '' : `, ${unit}`}`, city, `${region} ${postalCode}`, country].join(', ');
}

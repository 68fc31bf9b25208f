/** The database tells all servers on it that texts came, went out or were written. */
export const textsChannel = 'night_bell_texts';

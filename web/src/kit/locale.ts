import { ref } from 'vue';

/** The house's own forms: `Tue 24 Nov`, `14:20`, `1,250`. */
export const houseLocale = 'en-GB';

/** How whoever looks at this page writes dates, times and numbers; set with their session. */
export const locale = ref<string>(houseLocale);

/** Whether their clock has twelve hours: `2:20 PM` is wider than `14:20`. */
export const hasTwelveHours = (of: string = locale.value): boolean =>
  new Intl.DateTimeFormat(of, { hour: 'numeric' }).resolvedOptions().hour12 === true;

/** A number as they write it. */
export const figure = (value: number): string => value.toLocaleString(locale.value);

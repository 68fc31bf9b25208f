import { readCalendar } from '@night-bell/core/hours/calendar';

/** Reads a calendar beside the page: what repeats often takes seconds, and no key waits for it. */
onmessage = ({ data }: MessageEvent<{ text: string; zone: string; today: string }>) => {
  postMessage(readCalendar(data.text, data.zone, data.today));
};

/** A thread that reads one calendar and ends: one that repeats without end takes seconds. */
import { parentPort, workerData } from 'node:worker_threads';
import { readCalendar } from '@night-bell/core/hours/calendar';

if (parentPort === null) throw new Error('this is started as a thread');
const { text, zone, today } = workerData as { text: string; zone: string; today: string };
parentPort.postMessage(readCalendar(text, zone, today));

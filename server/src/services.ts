import type { RecordingFiles } from './areas/recordings/files.ts';
import type { Calendars } from './areas/hours/calendars.ts';
import type { Beside } from './beside/beside.ts';
import type { Database } from './database/connection.ts';
import type { Jobs } from './jobs/jobs.ts';
import type { JobQueue } from './jobs/queue.ts';
import type { Live } from './live/live.ts';
import type { Outgoing } from './outgoing/outgoing.ts';
import type { Mail } from './mail/mail.ts';
import type { LoginThrottle } from './security/login-throttle.ts';
import type { SecretBox } from './security/secret-box.ts';
import type { Sessions } from './security/sessions.ts';
import type { Sounds } from './sound/sounds.ts';

/** What the areas of the work stand on. */
export interface Services {
  database: Database;
  seal: SecretBox;
  sessions: Sessions;
  throttle: LoginThrottle;
  live: Live;
  beside: Beside;
  outgoing: Outgoing;
  calendars: Calendars;
  sounds: Sounds;
  /** Null where none are kept. */
  recordings: RecordingFiles | null;
  queue: JobQueue;
  jobs: Jobs;
  mail: Mail;
  /** `host:port` that whoever runs this server lets be asked. */
  allowedByOperator: string[];
}

import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { backUp, backupName } from './database/backup.ts';

/** A backup of the database of NIGHT_BELL_DATABASE into NIGHT_BELL_BACKUPS, for a timer of a real installation. */
const { NIGHT_BELL_DATABASE: url, NIGHT_BELL_BACKUPS: folder } = process.env;
if (url === undefined || folder === undefined) {
  process.stderr.write('Set NIGHT_BELL_DATABASE and NIGHT_BELL_BACKUPS.\n');
  process.exit(78);
}
mkdirSync(folder, { recursive: true, mode: 0o700 });
const file = join(folder, backupName('night-bell'));
await backUp(url, file);
process.stdout.write(`${file}\n`);

/** Lints what deploy/ holds: the image description as the Dockerfile language says, and every line of the units. */
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { validate } from 'dockerfile-utils';
import { project } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

const folder = join(project, 'deploy');
const faults = validate(readFileSync(join(folder, 'Dockerfile'), 'utf8')).map(
  ({ range, message }) => `Dockerfile:${range.start.line + 1} ${message}`,
);

/** systemd.syntax(7): sections, key=value, comments; a directive outside a section or without a value is lost silently. */
const units = readdirSync(folder).filter((file) => /\.(service|timer)$/.test(file));
for (const unit of units) {
  let section = '';
  readFileSync(join(folder, unit), 'utf8')
    .split('\n')
    .forEach((line, index) => {
      const at = `${unit}:${index + 1}`;
      if (/^\s*([#;].*)?$/.test(line)) return;
      if (/^\[(Unit|Service|Timer|Install)\]$/.test(line)) section = line;
      else if (!/^[A-Z][A-Za-z]*=.*$/.test(line)) faults.push(`${at} is no directive`);
      else if (section === '') faults.push(`${at} stands in no section`);
      for (const [, path] of line.matchAll(
        /(?:ExecStart=\/usr\/bin\/node |node )((?:server|scripts)\/\S+)/g,
      )) {
        const source = path.replace('/dist/', '/src/').replace(/\.js$/, '.ts');
        if (!existsSync(join(project, source)) && !existsSync(join(project, path)))
          faults.push(`${at}: no ${path}`);
      }
    });
}
// Where systemd is installed it says more than we can.
const analyze = spawnSync('systemd-analyze', ['--version'], { encoding: 'utf8' });
if (analyze.status === 0) {
  const { stderr } = spawnSync(
    'systemd-analyze',
    ['verify', '--man=no', ...units.map((unit) => join(folder, unit))],
    {
      encoding: 'utf8',
    },
  );
  for (const line of stderr.split('\n'))
    if (/deploy\/.*(Unknown|Failed to parse|Invalid)/.test(line)) faults.push(line);
}
if (faults.length > 0) giveUp(faults.join('\n'));
say(`deploy/: Dockerfile and ${units.length} units are well-formed.`);

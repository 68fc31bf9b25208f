/** npm run types: writes web/src/api/schema.ts from the declared routes, for the type check; it is in no commit. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { quietly, project } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

const file = join(project, 'web/src/api/schema.ts');
const made = quietly('node', ['--import', 'tsx', '--conditions=source', 'server/src/http/print-openapi.ts']);
if (!made.ok) giveUp(made.output);
const { default: openapiTS, astToString } = await import('openapi-typescript');
const document = JSON.parse(made.output.slice(made.output.indexOf('{')));
// Named by path and method here, and no page sends a key with what it makes: both would only be in the way.
for (const path of Object.values(document.paths))
  for (const operation of Object.values(path)) {
    delete operation.operationId;
    operation.parameters = operation.parameters.filter(({ name }) => name !== 'Idempotency-Key');
  }
const text = `// Written by npm run types from the declared routes of the server. Do not edit.\n${astToString(await openapiTS(document))}`;
writeFileSync(file, text);
say('web/src/api/schema.ts written.');

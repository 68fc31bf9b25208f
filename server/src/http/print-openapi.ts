import { declaredRoutes } from '../routes.ts';
import { openApi } from './openapi.ts';

/** The API document on standard output, without a database: routes are data. */
const nothingBehind = new Proxy({}, { get: () => nothingBehind }) as never;
process.stdout.write(
  JSON.stringify(openApi(declaredRoutes(nothingBehind, nothingBehind, nothingBehind, null, nothingBehind))),
);

import { dictionary } from '@zxcvbn-ts/language-common';

/** The tens of thousands of passwords that leaked lists hold most often, as the package ships them. */
const common = new Set(dictionary['passwords-common'] as string[]);

export function isCommonPassword(password: string): boolean {
  return common.has(password);
}

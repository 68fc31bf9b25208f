import { writeAmount } from '@night-bell/core/model/amount';
import { locale } from './locale.ts';

/** All prices and the balance are kept in this. */
const sign = '$';

const known = new Map<string, { group: string; decimal: string }>();

/** What stands between thousands, and before the cents. */
function separators(of: string): { group: string; decimal: string } {
  let found = known.get(of);
  if (found === undefined) {
    const parts = new Intl.NumberFormat(of, { useGrouping: 'always' } as never).formatToParts(12_345.6);
    const part = (type: string) => parts.find((each) => each.type === type)?.value ?? '';
    found = { group: part('group'), decimal: part('decimal') };
    known.set(of, found);
  }
  return found;
}

/** An exact amount as it is shown everywhere: `$1,250.00`, `-$3.50`, `$0.0135`. Empty for none. */
export function money(amount: string | bigint | null | undefined): string {
  if (amount === null || amount === undefined) return '';
  const written = typeof amount === 'bigint' ? writeAmount(amount) : amount;
  const [whole = '', part] = written.replace(/^-/, '').split('.');
  const { group, decimal } = separators(locale.value);
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, group);
  return `${written.startsWith('-') ? '-' : ''}${sign}${grouped}${part === undefined ? '' : `${decimal}${part}`}`;
}

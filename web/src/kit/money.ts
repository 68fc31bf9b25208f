import { writeAmount } from '@night-bell/core/model/amount';

/** All prices and the balance are kept in this. */
const sign = '$';

/** An exact amount as it is shown everywhere: `$1,250.00`, `-$3.50`, `$0.0135`. Empty for none. */
export function money(amount: string | bigint | null | undefined): string {
  if (amount === null || amount === undefined) return '';
  const written = typeof amount === 'bigint' ? writeAmount(amount) : amount;
  const [whole = '', part] = written.replace(/^-/, '').split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return `${written.startsWith('-') ? '-' : ''}${sign}${grouped}${part === undefined ? '' : `.${part}`}`;
}

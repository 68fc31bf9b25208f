/** '1 row', '1,200 rows': for what a job says of itself. */
export const counted = (count: number, one: string, many: string): string =>
  `${count.toLocaleString('en')} ${count === 1 ? one : many}`;

export interface SeedOrder {
  customer: string;
  address: { street: string; town: string };
  lines: { seed: string; bags: string }[];
}
export const emptyOrder: SeedOrder = { customer: '', address: { street: '', town: '' }, lines: [{ seed: '', bags: '1' }] };

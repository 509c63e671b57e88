export const seasons = ['spring', 'autumn'] as const;

export interface Booking {
  plot: string;
  keeper: string;
  season: 'spring' | 'autumn';
  crop: string;
  water: string;
}

import { createContext, useContext } from 'react';

export interface Crew {
  name: string;
  rows: string[];
  book(row: string, hours: number): Promise<{ id: number }>;
}

const CrewContext = createContext<Crew | null>(null);

export { CrewContext };

export function useCrew(): Crew {
  const crew = useContext(CrewContext);
  if (!crew) throw new Error('useCrew outside of its provider');
  return crew;
}

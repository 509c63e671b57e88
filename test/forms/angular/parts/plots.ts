import { InjectionToken } from '@angular/core';
import type { Observable } from 'rxjs';

export interface Plot {
  id: number;
  row: string;
  tree: string;
}

export abstract class Plots {
  abstract readonly names$: Observable<string[]>;
  abstract save(plot: Pick<Plot, 'row' | 'tree'>): Observable<Plot>;
}

export interface Clock {
  now(): string;
  zone: string;
}

export const CLOCK = new InjectionToken<Clock>('clock');

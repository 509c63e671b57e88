import { Injectable } from '@angular/core';
import { Observable, of } from 'rxjs';
@Injectable({ providedIn: 'root' })
export class SoilService {
  plotsLike(text: string): string[] { return ['North', 'South'].filter((p) => p.startsWith(text)); }
  save(sample: unknown): Observable<unknown> { return of(sample); }
}

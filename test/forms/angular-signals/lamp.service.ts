import { Injectable } from '@angular/core';

@Injectable({ providedIn: 'root' })
export class LampService {
  async light(post: string, minutes: number, colour: string): Promise<string> {
    return `${post} burns ${minutes} minutes in ${colour}`;
  }
}

import type { Span } from '../../form/code.js';
import type { AngularSite } from '../form-site.js';

/** The span of a place in the template. */
export function spanIn(site: AngularSite, place: { start: number; end: number }): Span {
  return { file: site.component.template.place.file, start: place.start, end: place.end };
}

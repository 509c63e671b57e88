/** Properties and events by which a component says which part of it is shown, rather than what a person entered. */
const properties =
  /^(?:is-?)?(?:open|opened|visible|show|shown|expanded|collapsed|full-?screen|hidden|loading|page|tab)$|^(?:current|active|selected)-?(?:page|tab|step|index|slide|panel|key)$/i;
const events =
  /^on(?:Open\w*|Close\w*|RequestClose|Toggle|Dismiss|Hide|Show\w*|Visible\w*|Expand\w*|Collapse\w*|Page\w*|Tab\w*|Step\w*|Mouse\w*|Pointer\w*|Hover\w*|Focus\w*|Drag\w*|Resize\w*|Scroll\w*)$/;

/** Whether a property, or an event that begins with `on`, speaks of what is shown. */
export function saysWhatShows(name: string): boolean {
  return properties.test(name) || events.test(name);
}

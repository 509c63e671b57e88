export function today() {
  return '2026-10-02';
}

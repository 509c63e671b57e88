export async function loadRule(station) {
  return { limit: station === 'hill' ? 2 : 0, mobile: '0171', active: true };
}

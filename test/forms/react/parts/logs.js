export const loadLog = (id) => Promise.resolve({ id, tree: 'A1', crates: 3, ripe: true, picker: 'nobody' });
export const saveLog = (id, log) => (log.tree === 'ZZ' ? Promise.reject(new Error('No such tree')) : Promise.resolve({ id, ...log }));

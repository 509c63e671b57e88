export const noHolder = { name: '', address: { village: 'Oberdorf', road: '' } };

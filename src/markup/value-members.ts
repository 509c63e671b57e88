/** Members of what a hook, a composable or a wrapper gives that only lead to the values: `form.values.town`. */
export const leadsToValues = /^(?:values|data|fields|state|form|value|inputs|formData|draft|current)$/;

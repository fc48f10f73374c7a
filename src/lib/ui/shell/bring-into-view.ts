/** Of what is said above a long form whose buttons stay in sight: it is brought there, too. */
export const bringIntoView = (said: Element): void => said.scrollIntoView({ block: 'nearest' });

/** What a theme says, or that it says nothing yet. */
export const claimOf = (theme: { title: string }) => theme.title || 'No claim yet';

/** Asks the sign-in's own endpoints; null: it was done. What they answer becomes a sentence. */
export async function askAuth(path: string, body: Readonly<Record<string, string>>, refused: string): Promise<string | null> {
  const response = await fetch(`/api/auth/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => null);
  if (!response) return 'The server does not answer. Try again in a moment.';
  if (response.ok) return null;
  if (response.status === 429) return 'Too many tries. Wait a minute, then try again.';
  return response.status < 500 ? refused : 'It did not work. Try again in a moment.';
}

const JSON_BODY = { 'content-type': 'application/json' };

/** Whoever an answer signs in: a way to call the server in their name. `more` goes with every request. */
async function inTheNameOf(url, response, more) {
  if (!response.ok) throw new Error(`sign-in: ${response.status} ${await response.text()}`);
  const cookie = response.headers.get('set-cookie').split(';')[0];
  const { token } = await response.json();
  const call = (method, path, body) =>
    fetch(`${url}${path}`, {
      method,
      headers: { cookie, 'x-near-spoke-token': token, ...JSON_BODY },
      body: body && JSON.stringify(body),
      ...more(),
    });
  return Object.assign(call, { signedIn: { cookie, token } });
}

/** One of the demo's people, the first where none is asked for. */
export async function demoPerson(url, nth = 0, more = () => ({})) {
  const { demoPeople } = await (await fetch(`${url}/api/session`)).json();
  const crewId = demoPeople[nth % demoPeople.length].id;
  const response = await fetch(`${url}/api/session/demo`, {
    method: 'POST',
    headers: JSON_BODY,
    body: JSON.stringify({ crewId }),
  });
  return inTheNameOf(url, response, more);
}

/** The first lead of an application that has nobody yet. */
export async function firstLead(url, person, more = () => ({})) {
  const response = await fetch(`${url}/api/setup`, {
    method: 'POST',
    headers: JSON_BODY,
    body: JSON.stringify(person),
  });
  return inTheNameOf(url, response, more);
}

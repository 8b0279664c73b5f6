import { Refusal, Unreachable } from "./errors";

/** Sends a file as it is, and gives what the server makes of it. */
export async function sendFile(address: string, file: File): Promise<unknown> {
  let answer: Response;
  try {
    answer = await fetch(address, {
      method: "POST",
      headers: { "Content-Type": file.type },
      body: file,
    });
  } catch (cause) {
    throw new Unreachable("The server does not answer.", { cause });
  }
  const body = await answer.json();
  if (!answer.ok) throw new Refusal(answer.status, body);
  return body;
}

/** Sends a picture as it is; the server re-encodes it without place, time or camera. */
export const sendPhoto = async (job_id: string, file: File) =>
  (await sendFile(`/api/jobs/${job_id}/photos`, file)) as { id: string };

/** Where a kept picture is found. */
export const photoAt = (job_id: string, id: string) => `/api/jobs/${job_id}/photos/${id}`;

export function loader(): never {
  throw new Response("There is nothing at this address. The rail has every open job.", { status: 404 });
}

export default function NotFound() {
  return null;
}

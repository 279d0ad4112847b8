import { redirect } from 'next/navigation';

/** The first page is the range until there is a Today. */
export default function Home() {
  redirect('/range');
}

import { redirect } from 'next/navigation';

/** The plan stands in the shortlist; addresses that were kept still lead there. */
export default function PlanPage() {
  redirect('/shortlist');
}

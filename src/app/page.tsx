export default function Page() { return <main>Linstock</main>; }

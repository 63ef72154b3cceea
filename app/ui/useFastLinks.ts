import { useNavigate } from "react-router";

/**
 * Follows the plain step links inside an element without loading the page anew. A bench holds dozens of them; one listener
 * costs a page less than a router hook in every link, and without scripts they are ordinary links.
 */
export function useFastLinks(): (event: React.MouseEvent) => void {
  const navigate = useNavigate();
  return (event) => {
    if (event.defaultPrevented || event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return;
    const href = event.target instanceof Element ? event.target.closest("a[data-step]")?.getAttribute("href") : undefined;
    if (!href) return;
    event.preventDefault();
    void navigate(href, { preventScrollReset: true });
  };
}

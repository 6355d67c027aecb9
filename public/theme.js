// Before anything is drawn: the surfaces that were chosen here, so that no page flashes in the other.
try {
  document.documentElement.dataset.theme = localStorage.getItem('foothill.theme') ?? 'dark';
} catch {
  document.documentElement.dataset.theme = 'dark';
}

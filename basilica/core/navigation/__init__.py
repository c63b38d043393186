"""Site → navigation: menus as each page sees them, the current entry, breadcrumbs, previous and next."""

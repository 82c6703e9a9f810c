"""The server: tables, documents, files, accounts, the HTTP interface, and the site that serves them."""

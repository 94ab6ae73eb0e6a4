"""What all pages share: base templates, components, static files, middleware, the desk."""

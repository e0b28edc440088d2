"""Commands about archives."""

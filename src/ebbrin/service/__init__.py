"""What a user can ask for. Page, command line and jobs call only this."""

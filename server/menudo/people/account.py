"""How signing in differs from allauth's defaults."""

from allauth.account.adapter import DefaultAccountAdapter
from django.http import HttpRequest


class Adapter(DefaultAccountAdapter):
    """People come by invitation: nobody signs up by themselves."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        return False

"""Django's admin for whoever runs Ridge: what is needed to help people, and nothing of what is in their studies."""

from __future__ import annotations

from typing import Any

from django.contrib import admin, messages
from django.contrib.auth.models import Group
from django.db.models import Count, QuerySet, Sum
from django.http import HttpRequest

from ridge.accounts.attempts import let_try_again
from ridge.accounts.keeping import add_code
from ridge.accounts.letters import are_sent, send_letter_to
from ridge.accounts.models import User

admin.site.site_header = admin.site.site_title = "Ridge: helping people"
admin.site.index_title = "People"
admin.site.site_url = "/"
admin.site.unregister(Group)
SHOWN = (
    "username",
    "email",
    "is_guest",
    "is_active",
    "is_staff",
    "last_visit",
    "date_joined",
    "studies_held",
    "megabytes",
)


@admin.register(User)
class People(admin.ModelAdmin):  # type: ignore[type-arg]  # not generic when it runs
    """Guests and accounts: found, stopped, let in again, deleted."""

    list_display = SHOWN
    list_filter = ("is_guest", "is_active", "is_staff", "last_visit")
    search_fields = ("username", "email")
    ordering = ("-last_visit", "username")
    fields = SHOWN
    readonly_fields = ("username", "is_guest", "last_visit", "date_joined", "studies_held", "megabytes")
    actions = ("write_to", "give_code", "let_try_again")

    def get_queryset(self, request: HttpRequest) -> QuerySet[User]:
        found: QuerySet[User] = super().get_queryset(request)
        return found.annotate(held=Count("studies"), bytes_held=Sum("studies__size"))

    @admin.display(description="studies", ordering="held")
    def studies_held(self, user: User) -> int:
        return int(user.held)  # type: ignore[attr-defined]  # annotated

    @admin.display(description="megabytes", ordering="bytes_held")
    def megabytes(self, user: User) -> str:
        return f"{(user.bytes_held or 0) / 1e6:.1f}"  # type: ignore[attr-defined]

    def has_add_permission(self, request: HttpRequest) -> bool:
        return False  # people come by themselves

    def get_deleted_objects(
        self, people: Any, request: HttpRequest
    ) -> tuple[list[str], dict[str, int], set[str], list[str]]:
        """Who goes; not the titles of all that goes with them."""
        return [user.username for user in people], {"people, with all their studies": len(people)}, set(), []

    @admin.action(description="Send a letter for a new password")
    def write_to(self, request: HttpRequest, people: QuerySet[User]) -> None:
        if not are_sent():
            self.message_user(request, "No mail server is set (README, “Serving it”).", messages.WARNING)
            return
        able = [user for user in people.exclude(email="") if not user.is_guest]
        for user in able:
            send_letter_to([user], request.build_absolute_uri("/account"))
            self.log_change(request, user, "Sent a letter for a new password.")
        self.message_user(request, f"Letters sent: {len(able)}. Guests and accounts without e-mail get none.")

    @admin.action(description="Make one more recovery code")
    def give_code(self, request: HttpRequest, people: QuerySet[User]) -> None:
        for user in people.filter(is_guest=False):
            self.log_change(request, user, "Made a recovery code.")
            self.message_user(request, f"A recovery code for {user.username}, shown this once: {add_code(user)}")

    @admin.action(description="Let try again after too many wrong passwords")
    def let_try_again(self, request: HttpRequest, people: QuerySet[User]) -> None:
        for user in people:
            let_try_again(user.username)
            self.log_change(request, user, "Let try again.")
        self.message_user(request, "They can try again.")

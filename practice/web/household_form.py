"""Entry of a new household."""

from django import forms

from practice.clients.models import EntityForm
from practice.firm.packs import usual_pack
from practice.firm.typed_values import day_of
from taxcore.engine import BadValue
from taxcore.engine.characters import refused


class TypedDay(forms.CharField):
    """A date in any way that a paper's field takes it."""

    def clean(self, value):
        text = super().clean(value)
        try:
            return day_of(text, self.label)
        except BadValue as bad:
            raise forms.ValidationError(bad.says) from None


def regions():
    """The parts of the country, as a form's choices."""
    return [("", ""), *usual_pack().regions.items()]


def _years():
    return [(year, str(year)) for year in sorted(usual_pack().years, reverse=True)]


class HouseholdForm(forms.Form):
    """One or two people and their address. Everything else is entered on the return."""

    first_name = forms.CharField(max_length=40, label="First name", widget=forms.TextInput({"autofocus": True}))
    last_name = forms.CharField(max_length=40, label="Last name")
    number = forms.CharField(max_length=20, required=False)
    birth_date = TypedDay(label="Date of birth", required=False)
    email = forms.EmailField(label="Email", required=False)
    occupation = forms.CharField(max_length=40, required=False)
    spouse_first_name = forms.CharField(max_length=40, label="First name", required=False)
    spouse_last_name = forms.CharField(max_length=40, label="Last name", required=False)
    spouse_number = forms.CharField(max_length=20, required=False)
    spouse_birth_date = TypedDay(label="Date of birth", required=False)
    spouse_email = forms.EmailField(label="Email", required=False)
    spouse_occupation = forms.CharField(max_length=40, label="Occupation", required=False)
    street = forms.CharField(max_length=60, required=False)
    city = forms.CharField(max_length=40, required=False)
    state = forms.ChoiceField(choices=regions, required=False)
    zip = forms.CharField(max_length=10, label="ZIP code", required=False)
    year = forms.TypedChoiceField(choices=_years, coerce=int, label="Return for")

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        for name in ("number", "spouse_number"):
            self.fields[name].label = usual_pack().identifier.name
        if "spouse" not in usual_pack().people.adds:
            for name in [one for one in self.fields if one.startswith("spouse_")]:
                del self.fields[name]

    def clean_number(self):
        return _number(self.cleaned_data["number"])

    def clean_spouse_number(self):
        return _number(self.cleaned_data["spouse_number"])

    def clean(self):
        data = super().clean()
        for name, value in data.items():
            if isinstance(value, str) and (says := refused(value)):
                self.add_error(name, says[0].upper() + says[1:] + ".")
        if data.get("spouse_last_name") and not data.get("spouse_first_name"):
            self.add_error("spouse_first_name", "Enter the spouse's first name too.")
        return data

    def people(self):
        """Dicts of Person's fields, the taxpayer first."""
        data = self.cleaned_data
        names = ("first_name", "last_name", "number", "birth_date", "email", "occupation")
        made = [{name: data[name] for name in names}]
        if data.get("spouse_first_name"):
            spouse = {name: data[f"spouse_{name}"] for name in names}
            made.append(spouse | {"last_name": spouse["last_name"] or data["last_name"]})
        return made

    def household_name(self):
        first, *others = self.people()
        return f"{first['last_name']}, {' and '.join([first['first_name'], *(other['first_name'] for other in others)])}"


class CompanyForm(forms.Form):
    """A client that is no person."""

    name = forms.CharField(max_length=120, label="Full name", widget=forms.TextInput({"autofocus": True}))
    form = forms.ChoiceField(choices=[("", ""), *EntityForm.choices], label="What it is")
    number = forms.CharField(max_length=20, label="Tax number", required=False)
    formed_on = TypedDay(label="Formed on", required=False)
    trade = forms.CharField(max_length=60, label="Business", required=False)
    email = forms.EmailField(label="Email", required=False)
    telephone = forms.CharField(max_length=20, required=False)
    street = forms.CharField(max_length=60, required=False)
    city = forms.CharField(max_length=40, required=False)
    state = forms.ChoiceField(choices=regions, required=False)
    zip = forms.CharField(max_length=10, label="ZIP code", required=False)

    def clean(self):
        data = super().clean()
        for name, value in data.items():
            if isinstance(value, str) and (says := refused(value)):
                self.add_error(name, says[0].upper() + says[1:] + ".")
        return data


def _number(text):
    try:
        return usual_pack().identifier.written(text)
    except ValueError as wrong:
        raise forms.ValidationError(str(wrong)) from None
